"""Work that takes longer than a call: what is wanted, how far it is, and what was noted on the way."""

STATEMENTS = [
    # The token is all that opens a visitor's job. `document` is what the demo said when it was asked for.
    """CREATE TABLE IF NOT EXISTS job (
        id INT AUTO_INCREMENT PRIMARY KEY,
        token CHAR(32) CHARACTER SET ascii COLLATE ascii_bin NOT NULL UNIQUE,
        kind VARCHAR(16) NOT NULL,
        demo_id INT NOT NULL,
        model_id INT NOT NULL,
        release_number INT NULL,
        document MEDIUMTEXT NOT NULL,
        by_author BOOLEAN NOT NULL,
        caller VARCHAR(120) NOT NULL,
        state VARCHAR(12) NOT NULL,
        stage VARCHAR(12) NOT NULL,
        options TEXT NOT NULL,
        file CHAR(64) NULL REFERENCES stored_file (hash),
        file_name VARCHAR(255) NOT NULL DEFAULT '',
        file_bytes BIGINT NOT NULL DEFAULT 0,
        found MEDIUMTEXT NULL,
        done BIGINT NOT NULL DEFAULT 0,
        total BIGINT NULL,
        answered BIGINT NOT NULL DEFAULT 0,
        faults BIGINT NOT NULL DEFAULT 0,
        chunks INT NOT NULL DEFAULT 0,
        detail TEXT NOT NULL DEFAULT '',
        created DATETIME(6) NOT NULL,
        started DATETIME(6) NULL,
        ended DATETIME(6) NULL,
        INDEX (state, id),
        INDEX (demo_id, id),
        FOREIGN KEY (demo_id) REFERENCES demo (id) ON DELETE CASCADE,
        FOREIGN KEY (model_id) REFERENCES model (id) ON DELETE CASCADE
    )""",
    """CREATE TABLE IF NOT EXISTS job_event (
        id INT AUTO_INCREMENT PRIMARY KEY,
        job_id INT NOT NULL,
        at DATETIME(6) NOT NULL,
        text TEXT NOT NULL,
        INDEX (job_id, id),
        FOREIGN KEY (job_id) REFERENCES job (id) ON DELETE CASCADE
    )""",
]
