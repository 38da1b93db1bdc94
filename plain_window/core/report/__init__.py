"""How a model did on known cases, as something to show a colleague.

- `figures`   the typed figures of a report; needs no NumPy, so that the API can be described without it
- `classes`   a classifier's: shares right, confusion, precision and recall, reliability, losses
- `numbers`   a regressor's: errors, their distribution, how often intervals hold
- `labels`    several labels, each yes or no by itself
- `groups`    the same by the values of one field
- `answers`   what the model said of the known cases, and what happened
"""
