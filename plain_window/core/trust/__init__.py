"""How far an answer can be trusted: what known cases say of it, and whether the table has seen anything like it.

`evidence` is what is kept of known cases and looked up for an answer; it needs no NumPy. `weighing` makes it, from
`conformal` (how far off, which classes are still possible) and `calibration` (do the probabilities come true).
`together` says how sure a mean of cases is of which several go wrong together, by `student`.
`similarity` compares a case with the reference table, `likeness` a picture or a text with known ones.
"""
