"""What answers every request for one model: in a runner, or wherever a model may be asked. Knows no process.

- `service`   `ModelService`: requests in, replies out
- `backends`  what is asked: a compiled model, one held by its library, one that looks at pictures
- `rows`      explanations of rows of a table, and what the reference rows say
- `pictures`  where a model looked in a picture or a drawing
"""
