"""Bringing models and demo folders in: what the command line and the API both do.

- `services`   the things needed for it, in one place
- `model_intake`  a model and a table become a demo
- `housekeeping`  what is tidied now and then
- `folders`    a demo as a folder or a zip of it
"""
