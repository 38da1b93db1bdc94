"""A demo as one file that needs no server: what goes along with the page, and the page that carries it.

The file's other half is `frontend/takeaway`, which reads what is written here and answers from it.
"""
