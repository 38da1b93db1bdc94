"""Records in MariaDB, files by content hash.

- `database`     the connection, and the numbered migrations
- `records`      the tables, as peewee models
- `changes`      the stamp that tells every process that a demo changed
- `files`        files by content hash
- `authors`      authors, sign-in links, passwords, keys
- `sessions`     authors signed in with a browser
- `demos`        drafts, and who may open them; `addresses`, `releases`
- `worked_out`   what was worked out about a model once
- `predictions`  one entry a prediction, written in small batches off the request's path
"""
