"""*Where are the flaws?*: boxes around what is wrong on a photographed tile.

- `tiles`  a generator of photographs, with a box around each flaw
- `train`  trains a small network that looks everywhere at once, and writes the demo folder
- `demo/`  the demo folder it wrote, with the page's words in `demo.toml`
"""
