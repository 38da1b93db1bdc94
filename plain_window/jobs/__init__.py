"""Work that takes longer than a call: jobs, kept in the database, carried out a chunk at a time.

- `carrier`        the process that carries jobs out; `wake` tells it that there is something to do
- `table_job`      a table of cases: looked at, asked about, written
- `making_job`     libraries of a model's own, built, and what waited for them, or that alone; `wanted`, what that is
- `chunk_asking`   rows asked of a compiled model through workers, of any other through its own runner
- `options`        what may be wanted of a table, and `found`, what is known of it once it was looked at
- `folder`         what a job has made, on disk
- `results`        that as a file of the kind somebody wants
- `insisting`      doing what the database has to be there for until it is
"""
