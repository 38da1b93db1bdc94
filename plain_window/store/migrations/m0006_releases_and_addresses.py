"""Releases say why, addresses that changed lead on, and an author's own tries are told from visitors' answers."""

STATEMENTS = [
    "ALTER TABLE demo_release ADD COLUMN IF NOT EXISTS note TEXT NOT NULL DEFAULT ''",
    "ALTER TABLE demo_release ADD COLUMN IF NOT EXISTS despite TEXT NULL",
    """CREATE TABLE IF NOT EXISTS old_address (
        slug VARCHAR(120) NOT NULL PRIMARY KEY,
        demo_id INT NOT NULL,
        since DATETIME(6) NOT NULL,
        KEY of_demo (demo_id),
        FOREIGN KEY (demo_id) REFERENCES demo (id) ON DELETE CASCADE
    )""",
    "ALTER TABLE prediction ADD COLUMN IF NOT EXISTS by_author BOOLEAN NOT NULL DEFAULT FALSE",
]
