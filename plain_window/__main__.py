"""`python -m plain_window`: what `./plainwindow` runs once everything is installed."""

import os
import sys

if __name__ == "__main__":
    if not sys.flags.safe_path:
        # Started by hand, Python looks for modules in the current folder first. That may be a folder somebody sent.
        root = os.path.dirname(os.path.dirname(os.path.abspath(__file__)))
        os.environ["PYTHONPATH"] = root
        os.execv(sys.executable, [sys.executable, "-P", "-m", "plain_window", *sys.argv[1:]])

    from plain_window.cli import main

    main()
