"""What compiled models say, for every reader of them: small models with rows and the outputs that they come to.

`operations.json` is made by `python -m tests.vectors` and read by the tests of both readers, in Python and in
TypeScript.
"""
