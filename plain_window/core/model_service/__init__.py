"""What answers every request for one model: in a runner, or wherever a model may be asked. Knows no process.

- `service`   `ModelService`: requests in, replies out
- `quick`     a small compiled model asked without a process of its own
- `backends`  what is asked: a compiled model, one held by its library, one that looks at pictures
- `rows`      explanations of rows of a table, and what the reference rows say
- `likeness_of_rows`  how like the reference rows a case is; `strangers`, whether it is unlike them (`likeness_kernel`)
- `pictures`  where a model looked in a picture or a drawing
"""
