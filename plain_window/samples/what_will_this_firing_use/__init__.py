"""*What will this firing use?*: the energy of a firing, from the kiln, its load and its schedule.

- `firings`  a generator of firings and the energy they took
- `train`    fits the boosted trees and writes the demo folder
- `demo/`    the demo folder it wrote, with the page's words in `demo.toml`
"""
