"""The processes that run together, and where they keep their things.

- `settings`    state directory, addresses, limits: everything an operator can set, from the environment
- `children`    starting, watching and stopping one child process
- `earlier`     what an earlier life has left running
- `logs`        lines that say one thing each, files of a bounded size
- `database`    the bundled MariaDB
- `supervisor`  starts MariaDB, the keeper and gunicorn, brings back what dies, stops all in order
"""
