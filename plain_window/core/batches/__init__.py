"""Whole tables: read in chunks, answered, written.

- `chunks`       a table of any kind as chunks of rows: `text_chunks`, `parquet_chunks`, `sheet_chunks`
- `raw_chunks`   what a chunk is, and what each kind of table gives
- `matching`     which column belongs to which field; `units`, what one unit is in another
- `looking`      what the first rows tell of how numbers and dates are written
- `cells`        a column's values as a field takes them, with what is wrong in which row; `fixed`, those nobody gives
- `answering`    the outputs of many rows as columns of answers; `truths`, what happened
- `writing`      columns as CSV, guarded against formulas; `converting`, that as Parquet or a spreadsheet
- `table_cases`  all of it in order, for whoever asks a piece at a time
- `asking`       rows as a worker gets them, asked of a compiled model; `carried`, as a cluster is told to
- `likeness_of_many`  which of many rows are unlike anything seen

The whole of it runs where a file that is made to do harm does none, but for `asking`: that gets checked numbers only.
"""
