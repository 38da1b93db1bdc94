"""What was worked out about a model is kept with it; it goes with it too."""

STATEMENTS = [
    """CREATE TABLE IF NOT EXISTS worked_out (
        model_id INT NOT NULL,
        name VARCHAR(80) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
        content MEDIUMTEXT NOT NULL,
        created DATETIME(6) NOT NULL,
        PRIMARY KEY (model_id, name),
        FOREIGN KEY (model_id) REFERENCES model (id) ON DELETE CASCADE
    )""",
]
