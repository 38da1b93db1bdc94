"""The processes that run together, and where they keep their things.

- `settings`    state directory, addresses, limits: everything an operator can set, from the environment
- `children`    starting, watching and stopping one child process
- `database`    the bundled MariaDB
- `supervisor`  starts MariaDB, the keeper and gunicorn, brings back what dies, stops all in order
"""
