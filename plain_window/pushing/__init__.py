"""A demo's folder brought to a Plain Window that runs elsewhere, through its API alone.

- `packing`  the folder as a zip
- `calls`    calls of the API, with patience and in words; `replies`, what it replies
- `release`  the draft replaced, checked, published
"""
