"""Bringing models and demo folders in: what the command line and the API both do.

- `services`   the things needed for it, in one place
- `model_intake`  a model and a table become a demo
- `replacing`  another model, table or names for a demo; `comparing` asks both models about the same cases
- `expected`   outputs of the author's notebook; `table_reading`, a table read inside the walls
- `housekeeping`  what is tidied now and then
- `folders`    a demo as a folder or a zip of it
"""
