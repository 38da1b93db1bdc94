"""scikit-learn.

- `recognising`             which files are its own
- `pickled`, `skops_file`  from a file to an object, and why it failed in words
- `adapter`     estimators and pipelines, asked
- `column_use`  what a pipeline does with each of its columns
- `compiling`   estimators into steps of a plan
"""
