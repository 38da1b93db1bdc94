"""Bringing models and demo folders in: what the command line and the API both do.

- `workshop`   the things needed for it, in one place
- `bringing`   a model and a table become a demo
- `housekeeping`  what is tidied now and then
- `folders`    a demo as a folder or a zip of it
"""
