"""A model may come with its preprocessor in a second file."""

STATEMENTS = [
    "ALTER TABLE model ADD COLUMN IF NOT EXISTS preprocessor_file CHAR(64) NULL AFTER model_file",
    "ALTER TABLE model ADD CONSTRAINT FOREIGN KEY IF NOT EXISTS model_preprocessor (preprocessor_file) "
    "REFERENCES stored_file (hash)",
]
