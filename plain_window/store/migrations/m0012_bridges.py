"""A model may stay in its author's own process, and be reached over a bridge of this name."""

STATEMENTS = ["ALTER TABLE model ADD COLUMN IF NOT EXISTS bridge CHAR(32) CHARACTER SET ascii COLLATE ascii_bin NULL"]
