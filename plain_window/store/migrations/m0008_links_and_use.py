"""Links have names and counts; sites that may frame a page; the author's own outputs; sums of what was entered."""

STATEMENTS = [
    "ALTER TABLE secret_link ADD COLUMN IF NOT EXISTS name VARCHAR(120) NOT NULL DEFAULT ''",
    "ALTER TABLE secret_link ADD COLUMN IF NOT EXISTS opened INT NOT NULL DEFAULT 0",
    "ALTER TABLE demo ADD COLUMN IF NOT EXISTS sites TEXT NULL",
    "ALTER TABLE demo ADD COLUMN IF NOT EXISTS expected_file CHAR(64) NULL REFERENCES stored_file (hash)",
    "ALTER TABLE demo ADD COLUMN IF NOT EXISTS expected_rows_file CHAR(64) NULL REFERENCES stored_file (hash)",
    # The model's file that those outputs are of.
    "ALTER TABLE demo ADD COLUMN IF NOT EXISTS expected_of CHAR(64) NULL",
    # Counts of bins, never a value. The field without a name stands for the answer.
    """CREATE TABLE IF NOT EXISTS entered_summary (
        demo_id INT NOT NULL,
        model_id INT NOT NULL,
        week DATE NOT NULL,
        field VARCHAR(500) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin NOT NULL,
        bin SMALLINT NOT NULL,
        cases INT NOT NULL,
        PRIMARY KEY (demo_id, model_id, week, field, bin),
        FOREIGN KEY (demo_id) REFERENCES demo (id) ON DELETE CASCADE
    )""",
]
