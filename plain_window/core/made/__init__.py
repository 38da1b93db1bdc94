"""Answers that are pictures: what a model makes of a picture, and a class for each of its pixels.

- `outputs`   which of a model's outputs have the shape of a picture, and what they can be
- `pictures`  an output read as a picture
- `masks`     an output read as a class for each pixel, and laid over the picture
"""
