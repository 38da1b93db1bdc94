"""*How will it look fired?*: a photograph of a glazed tile before the kiln, made into one after it.

- `tiles`  a generator of photographs, raw and fired
- `train`  trains a small network that changes pictures of any size, and writes the demo folder
- `demo/`  the demo folder it wrote, with the page's words in `demo.toml`
"""
