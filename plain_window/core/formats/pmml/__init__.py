"""Models in PMML 4.x, read and asked directly.

- `document`  a file as plain parts
- `reading`   from XML to those, hardened against tricks
- `asking`    what the standard says a model answers for one row
- `adapter`   the model as the rest of the program sees it
"""
