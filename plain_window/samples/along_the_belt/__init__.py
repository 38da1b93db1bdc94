"""*Along the belt*: a film of tiles that pass, each with a box around it that says how it is.

- `belt`   a generator of belts with tiles on them, and of what a camera above sees
- `train`  trains a small network that looks everywhere at once, films a belt, and writes the demo folder
- `demo/`  the demo folder it wrote, with the page's words in `demo.toml`
"""
