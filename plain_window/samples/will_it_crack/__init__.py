"""*Will it crack?*: sound, warps or cracks, from a piece's making, drying and firing.

- `pieces`   a generator of pieces and what became of them
- `train`    fits the forest and writes the demo folder
- `demo/`    the demo folder it wrote, with the page's words in `demo.toml`
"""
