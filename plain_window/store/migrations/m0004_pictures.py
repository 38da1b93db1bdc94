"""Models of pictures and of text need no reference table."""

STATEMENTS = ["ALTER TABLE model MODIFY COLUMN reference_file CHAR(64) NULL"]
