"""`python -m plain_window`: what `./plainwindow` runs once everything is installed."""

from .cli import main

if __name__ == "__main__":
    main()
