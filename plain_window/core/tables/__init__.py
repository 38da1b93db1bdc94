"""Tables as people have them, read where there is one reading.

- `reading`       a file of any kind as a table, with what was concluded on the way
- `delimited`     text with separators: its encoding, its separator, its header
- `numbers`       columns of words that are numbers with grouping, decimal commas, percent and currency signs
- `dates`         columns that hold dates, as people write them
- `spreadsheets`  Excel files
- `objects`       JSON lines
"""
