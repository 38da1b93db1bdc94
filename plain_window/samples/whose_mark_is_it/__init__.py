"""*Whose mark is it?*: the mark a potter drew into the foot of a pot.

- `marks`  a generator of drawn marks: the potters, and how a hand varies
- `train`  trains a small convolutional network and writes the demo folder
- `demo/`  the demo folder it wrote, with the page's words in `demo.toml`
"""
