"""Functions as models: one Python file, read without being run to find its signature, and run behind the walls.

- `archive`      what lies beside a function, as a zip
- `source`       the file as a tree: which function answers, and whether another is its batch form
- `constants`    what stands for a constant in it
- `annotations`  type hints into what a parameter takes
- `docstrings`   labels and help out of the function's docstring
- `signature`    all of that together: parameters, and what is said of the answer
- `returned`     what the annotation says of the answer
- `stand_in`     values in the stated ranges, to try a function on that comes without a table
- `functions`    the file run and called, here or where its libraries are
- `fractions`    where whole numbers are needed
- `answers`      what it gave back as a row of outputs
- `in_picture`   boxes and pictures that it gave back, as outputs that are read like any model's
- `batches`      what a function of many cases gave back
- `pictures`     a function that looks at pictures
- `adapter`      a function of values
"""
