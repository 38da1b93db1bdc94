"""Why an answer is what it is: contributions, response curves, importance.

- `structure`   which fields each column of a plan is made of
- `splitting`   a plan in two parts, so that rows can be mixed of two
- `trees`       exact contributions and curves of sums of trees
- `paths`       a forest seen from its leaves; `patterns` the sample seen from there; `path_kernels` their loops
- `kernels`     walks down forests too large for that
- `linear`      exact contributions of sums of weighted columns
- `coalitions`  contributions of anything: by enumeration, or by sampling with its error
- `curves`      response curves
- `changes`     what would change an answer
- `overall`     importance, direction and average curves over the reference table
- `text`        contributions of words; `terms` for compiled models of words
- `explainer`   chooses among them for one model
"""
