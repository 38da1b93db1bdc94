"""Make `operations.json` anew: `python -m tests.vectors`."""

from .written import PLACE, written_vectors

if __name__ == "__main__":
    PLACE.write_text(written_vectors(), encoding="utf-8")
