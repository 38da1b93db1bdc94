"""Boxes around what a model finds in a picture.

- `candidates`   a model's outputs, read as boxes with scores and classes
- `suppression`  of boxes that lie over one another the best
- `readings`     which readings the outputs' shapes allow
- `guessing`     which of those fits, by asking about pictures and their mirror images
- `finding`      all of it for one picture, in the pixels of the picture as it was given
- `drawing`      boxes drawn into the picture, in the format it came in
"""
