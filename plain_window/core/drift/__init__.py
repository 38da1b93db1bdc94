"""Whether what visitors ask about is like the reference table, from counts alone.

- `bins`      into which bin a value or an answer falls
- `distance`  how far two sets of counts are apart, and whether that is more than chance
"""
