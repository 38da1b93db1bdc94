"""The reference rows and known cases that are kept beside a model for its runner."""

STATEMENTS = [
    "ALTER TABLE model ADD COLUMN IF NOT EXISTS study_file CHAR(64) NULL AFTER compiled_file",
    "ALTER TABLE model ADD CONSTRAINT FOREIGN KEY IF NOT EXISTS model_study (study_file) REFERENCES stored_file (hash)",
]
