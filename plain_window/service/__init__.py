"""The processes that run together.

- `children`    starting, watching and stopping one child process
- `earlier`     what an earlier life has left running
- `database`    the bundled MariaDB
- `warmth`      by what web processes say that they are warm
- `supervisor`  starts MariaDB, the keeper and gunicorn, brings back what dies, stops all in order
"""
