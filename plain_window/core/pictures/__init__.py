"""Pictures on their way to a model: from a file to upright colour, and from there to what the model was trained on.

- `reading`      a file's content as pixels, or a sentence about why not
- `preparation`  pixels as the model's input: size, fit, colour, scale, order, layout
"""
