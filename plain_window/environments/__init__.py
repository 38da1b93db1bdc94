"""Environments: the libraries that a demo's model asks for, fetched, installed behind walls, kept by content.

- `building`    all of it in order: fetched, locked, installed, tried
- `fetching`    wheels from the index, which executes nothing of theirs
- `sources`     source packages that the operator has named, made into wheels behind the walls
- `one_file`    one file by its address, in the walls of pip
- `complaints`  what pip says went wrong, as a sentence with the way on
- `walls`       the walls in which something is installed or tried: no network, one folder to write to
- `inside`      what runs in there
- `folders`     where environments lie, how large they are, and which of them go
"""
