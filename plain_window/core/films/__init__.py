"""Films: opened, read a moment at a time, and written with boxes.

- `reading`   a film's facts, or a sentence about why there are none; its frames with their times
- `moments`   the frames that a model is asked about, so many a second
- `expected`  how many those will be
- `bitmaps`   a frame as the file of a picture, upright and in the colours that players show
- `fitting`   frames in the size that a model looks at
- `with_boxes`  the film again, with boxes drawn into its frames and its own sound
"""
