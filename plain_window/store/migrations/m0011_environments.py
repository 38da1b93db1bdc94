"""Models may have libraries of their own; a job may be about a demo that is not there yet."""

STATEMENTS = [
    # By exactly what is in it. `packages` lists names, versions and hashes.
    """CREATE TABLE IF NOT EXISTS environment (
        hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
        packages MEDIUMTEXT NOT NULL,
        size BIGINT NOT NULL,
        created DATETIME(6) NOT NULL
    )""",
    # What requirements came to: the same ones again need no building.
    """CREATE TABLE IF NOT EXISTS environment_request (
        hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin PRIMARY KEY,
        environment CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
        requirements MEDIUMTEXT NOT NULL,
        created DATETIME(6) NOT NULL,
        FOREIGN KEY (environment) REFERENCES environment (hash) ON DELETE CASCADE
    )""",
    "ALTER TABLE model ADD COLUMN IF NOT EXISTS requirements MEDIUMTEXT NULL",
    "ALTER TABLE model ADD COLUMN IF NOT EXISTS environment CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL",
    "ALTER TABLE model ADD CONSTRAINT FOREIGN KEY IF NOT EXISTS model_environment (environment) "
    "REFERENCES environment (hash)",
    # A network as ONNX, where that says the same.
    "ALTER TABLE model ADD COLUMN IF NOT EXISTS converted_file CHAR(64) NULL",
    "ALTER TABLE model ADD CONSTRAINT FOREIGN KEY IF NOT EXISTS model_converted (converted_file) "
    "REFERENCES stored_file (hash)",
    "ALTER TABLE job MODIFY demo_id INT NULL, MODIFY model_id INT NULL, MODIFY options MEDIUMTEXT NOT NULL",
    "ALTER TABLE job ADD COLUMN IF NOT EXISTS author_id INT NULL",
    "ALTER TABLE job ADD CONSTRAINT FOREIGN KEY IF NOT EXISTS job_author (author_id) "
    "REFERENCES author (id) ON DELETE CASCADE",
]
