"""A release with a file of its own may answer while the process of a bridged one is away."""

STATEMENTS = ["ALTER TABLE demo ADD COLUMN IF NOT EXISTS away_release_id INT NULL"]
