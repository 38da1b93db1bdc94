"""Plain Window: a trained model as a page that anyone can use and understand.

The house, from the door inwards:

- `cli`       the one shell entry's commands
- `service`   the processes that run together: MariaDB, the keeper, gunicorn
- `web`       Flask: thin views over `store`, `runners` and `core`
- `runners`   the keeper, and the confined processes that hold one model each
- `store`     records in MariaDB, files by content hash
- `core`      computation only; uses none of the rooms above
- `samples`   the made-up pottery studio
"""

__version__ = "0.1.0"
