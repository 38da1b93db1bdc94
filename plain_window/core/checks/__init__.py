"""What an author should know before a page is published: each check with its finding, its evidence, and the way on.

- `result`     what a check comes to; needs no NumPy
- `facts`      what checks are made on
- `of_model`   whether the model is the one meant: features, classes, versions, size
- `of_answers` whether it answers: the same twice, at the edges, in time
- `of_cases`   what known cases say: better than guessing, probabilities, leaks
- `of_page`    whether visitors can use the page: ranges, words, preparation
- `running`    all of them, in order, one after another
"""
