"""The libraries that one demo's model asks for: what is asked, what that was locked to, and what is refused.

- `requirements`  a `requirements.txt` as people have them, read; paths, addresses and options refused
- `lock`          exactly which files that came to, by hash
- `suggested`     what would have to be there, concluded from a file that could not be opened
"""
