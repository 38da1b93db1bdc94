"""Tables as people have them, read where there is one reading.

- `reading`       a file of any kind as a table, with what was concluded on the way
- `kinds_of_file` what a file is that is no table
- `delimited`     text with separators; `written_text`, its encoding, its separator, its header
- `numbers`       columns of words that are numbers; `number_words`, one number with all that people write around it
- `dates`         columns that hold dates; `date_words`, one date as people write it
- `spreadsheets`  Excel files
- `objects`       JSON lines
"""
