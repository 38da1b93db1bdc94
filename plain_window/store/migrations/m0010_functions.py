"""A function may come with files beside it, in a zip archive."""

STATEMENTS = [
    "ALTER TABLE model ADD COLUMN IF NOT EXISTS beside_file CHAR(64) NULL AFTER preprocessor_file",
    "ALTER TABLE model ADD CONSTRAINT FOREIGN KEY IF NOT EXISTS model_beside (beside_file) "
    "REFERENCES stored_file (hash)",
]
