"""A table without a model: pieces fired over two years, as a studio wrote them down, with all that lies in wait in such
tables. `firing_log` makes it.
"""

from pathlib import Path

__all__ = ["TABLE"]

TABLE = Path(__file__).with_name("firing_log.csv")
