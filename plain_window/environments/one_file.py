"""One file by its address, written to a place: run in the walls of pip, with the way to the index that pip has."""

import shutil
import sys
import urllib.request

__all__ = ["main"]

SECONDS = 60


def main(address: str, place: str) -> None:
    """Fetch it.

    Parameters
    ----------
    address, place : str
    """
    with urllib.request.urlopen(address, timeout=SECONDS) as file, open(place, "wb") as made:
        shutil.copyfileobj(file, made)


if __name__ == "__main__":
    main(*sys.argv[1:3])
