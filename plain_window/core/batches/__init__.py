"""Whole tables: read in chunks, answered, written.

- `chunks`       a table of any kind as chunks of rows: `text_chunks`, `parquet_chunks`, `sheet_chunks`
- `matching`     which column belongs to which field, and in which unit it is
- `cells`        a column's values as a field takes them, with what is wrong in which row
- `answering`    the outputs of many rows as columns of answers
- `writing`      columns as CSV, guarded against formulas; `converting`, that as Parquet or a spreadsheet
- `table_cases`  all of it in order, for whoever asks a piece at a time
- `asking`       rows as a worker gets them, asked of a compiled model

The whole of it runs where a file that is made to do harm does none, but for `asking`: that gets checked numbers only.
"""
