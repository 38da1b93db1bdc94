"""What visitors say became of the cases they asked about."""

STATEMENTS = [
    """CREATE TABLE IF NOT EXISTS visitor_outcome (
        prediction_id VARCHAR(40) NOT NULL PRIMARY KEY,
        demo_id INT NOT NULL,
        release_number INT NOT NULL,
        at DATETIME(6) NOT NULL,
        answer TEXT NOT NULL,
        is_right BOOLEAN NOT NULL,
        truth TEXT NULL,
        comment TEXT NULL,
        KEY of_demo (demo_id, at),
        FOREIGN KEY (demo_id) REFERENCES demo (id) ON DELETE CASCADE
    )""",
]
