"""From a table alone to a model: what its columns are and what lies in wait in them, models compared honestly, and the
program that makes the one that was chosen, by hand too.

`looking` looks at a table and says so in a `Sheet`; `recipe` turns that and an author's `Choices` into the recipe of
`by_hand`; `comparing` fits and compares, `making` makes what a demo is brought of.
"""
