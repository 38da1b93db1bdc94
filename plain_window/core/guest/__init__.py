"""What runs where a demo's own libraries are: the standard library and NumPy are all it needs of that place.

A runner with an environment starts a second process inside the same walls, with that environment's libraries and none
of ours. It holds the model; the runner asks it, and knows everything else.

- `main`        that process: what it is asked, one question after another
- `wire`        length-prefixed msgpack between the two, arrays as type, shape and bytes; never pickle
- `values`      what an author's code gave back, as values that can be sent
- `loading`     an author's file run, with what lies beside it
- `arguments`   rows of values as what a function takes
- `calling`     a function of an author's file, called
- `failing`     what code raises, as a sentence and the lines it happened at
- `estimators`  a pickled estimator opened, described and asked; `class_names`, its classes as strings
- `network`     what every network offers; `networks`, `torch_network`, `keras_network`, those of PyTorch and Keras

Without an environment the runner itself uses `loading`, `arguments`, `calling` and `failing`.
"""
