"""Speed and memory, measured. Run with `./plainwindow bench`; what came out stands in `docs/performance.md`.

- `constant_route`     the floor: a Flask route that answers always the same
- `handwritten_page`   what an author would write around the same model
- `in_process`         the same model through its library and compiled, without HTTP
- `load`               a client that keeps a number of connections busy
- `servers`            the three servers, each under the same gunicorn settings
- `report`             tables and JSON
"""
