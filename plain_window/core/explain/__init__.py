"""Why an answer is what it is: contributions, response curves, importance.

- `structure`   which fields each column of a plan is made of
- `splitting`   a plan in two parts, so that rows can be mixed of two
- `trees`       exact contributions and curves of sums of trees; `kernels` has the walks
- `linear`      exact contributions of sums of weighted columns
- `coalitions`  contributions of anything: by enumeration, or by sampling with its error
- `curves`      response curves
- `explainer`   chooses among them for one model
"""
