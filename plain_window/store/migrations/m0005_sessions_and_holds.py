"""Sessions are on the server's side; files count who works with them; keys say when they were used."""

STATEMENTS = [
    """CREATE TABLE IF NOT EXISTS author_session (
        id INT AUTO_INCREMENT PRIMARY KEY,
        token_hash CHAR(64) NOT NULL UNIQUE,
        author_id INT NOT NULL,
        csrf CHAR(32) NOT NULL,
        by_link BOOLEAN NOT NULL,
        created DATETIME(6) NOT NULL,
        used DATETIME(6) NOT NULL,
        ends DATETIME(6) NOT NULL,
        KEY of_author (author_id),
        FOREIGN KEY (author_id) REFERENCES author (id) ON DELETE CASCADE
    )""",
    "ALTER TABLE api_key ADD COLUMN IF NOT EXISTS used DATETIME(6) NULL",
    "ALTER TABLE stored_file ADD COLUMN IF NOT EXISTS holds INT NOT NULL DEFAULT 0",
    "ALTER TABLE stored_file ADD COLUMN IF NOT EXISTS held_at DATETIME(6) NULL",
]
