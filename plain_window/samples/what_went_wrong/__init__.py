"""*What went wrong?*: what a line from the kiln log says is wrong with the kiln or its load.

- `lines`  a generator of log lines and the faults behind them
- `train`  fits the text classifier and writes the demo folder
- `demo/`  the demo folder it wrote, with the page's words in `demo.toml`
"""
