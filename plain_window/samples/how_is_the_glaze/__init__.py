"""*How is the glaze?*: what a photograph of a glazed test tile shows.

- `tiles`  a generator of photographs: glaze, faults, light, grain and camera noise
- `train`  trains a small convolutional network and writes the demo folder
- `demo/`  the demo folder it wrote, with the page's words in `demo.toml`
"""
