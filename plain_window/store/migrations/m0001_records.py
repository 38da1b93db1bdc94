"""The first tables."""

STATEMENTS = [
    """CREATE TABLE IF NOT EXISTS author (
        id INT AUTO_INCREMENT PRIMARY KEY,
        name VARCHAR(120) NOT NULL UNIQUE,
        password_hash VARCHAR(255) NULL,
        session_number INT NOT NULL DEFAULT 1,
        created DATETIME(6) NOT NULL
    )""",
    """CREATE TABLE IF NOT EXISTS sign_in_link (
        token_hash CHAR(64) PRIMARY KEY,
        author_id INT NOT NULL,
        expires DATETIME(6) NOT NULL,
        used DATETIME(6) NULL,
        FOREIGN KEY (author_id) REFERENCES author (id) ON DELETE CASCADE
    )""",
    """CREATE TABLE IF NOT EXISTS api_key (
        id INT AUTO_INCREMENT PRIMARY KEY,
        author_id INT NOT NULL,
        name VARCHAR(120) NOT NULL,
        key_hash CHAR(64) NOT NULL UNIQUE,
        created DATETIME(6) NOT NULL,
        revoked DATETIME(6) NULL,
        FOREIGN KEY (author_id) REFERENCES author (id) ON DELETE CASCADE
    )""",
    """CREATE TABLE IF NOT EXISTS stored_file (
        hash CHAR(64) PRIMARY KEY,
        size BIGINT NOT NULL,
        created DATETIME(6) NOT NULL
    )""",
    """CREATE TABLE IF NOT EXISTS model (
        id INT AUTO_INCREMENT PRIMARY KEY,
        runner_key CHAR(32) NOT NULL UNIQUE,
        model_file CHAR(64) NOT NULL,
        reference_file CHAR(64) NOT NULL,
        compiled_file CHAR(64) NULL,
        target VARCHAR(255) NULL,
        labels LONGTEXT NULL,
        inspection LONGTEXT NOT NULL,
        created DATETIME(6) NOT NULL,
        FOREIGN KEY (model_file) REFERENCES stored_file (hash),
        FOREIGN KEY (reference_file) REFERENCES stored_file (hash),
        FOREIGN KEY (compiled_file) REFERENCES stored_file (hash)
    )""",
    """CREATE TABLE IF NOT EXISTS demo (
        id INT AUTO_INCREMENT PRIMARY KEY,
        slug VARCHAR(120) NOT NULL UNIQUE,
        author_id INT NOT NULL,
        model_id INT NOT NULL,
        known_file CHAR(64) NULL,
        draft LONGTEXT NOT NULL,
        access VARCHAR(16) NOT NULL DEFAULT 'private',
        passcode_hash VARCHAR(255) NULL,
        live_release_id INT NULL,
        created DATETIME(6) NOT NULL,
        changed DATETIME(6) NOT NULL,
        deleted DATETIME(6) NULL,
        slug_before_deletion VARCHAR(120) NULL,
        FOREIGN KEY (author_id) REFERENCES author (id),
        FOREIGN KEY (model_id) REFERENCES model (id),
        FOREIGN KEY (known_file) REFERENCES stored_file (hash)
    )""",
    # `release` is a reserved word in SQL.
    """CREATE TABLE IF NOT EXISTS demo_release (
        id INT AUTO_INCREMENT PRIMARY KEY,
        demo_id INT NOT NULL,
        number INT NOT NULL,
        model_id INT NOT NULL,
        document LONGTEXT NOT NULL,
        created DATETIME(6) NOT NULL,
        UNIQUE KEY one_number_a_demo (demo_id, number),
        FOREIGN KEY (demo_id) REFERENCES demo (id) ON DELETE CASCADE,
        FOREIGN KEY (model_id) REFERENCES model (id)
    )""",
    """CREATE OR REPLACE TRIGGER releases_are_immutable BEFORE UPDATE ON demo_release FOR EACH ROW
        SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'a release never changes; publish a new one'""",
    """CREATE TABLE IF NOT EXISTS secret_link (
        id INT AUTO_INCREMENT PRIMARY KEY,
        demo_id INT NOT NULL,
        created DATETIME(6) NOT NULL,
        expires DATETIME(6) NULL,
        revoked DATETIME(6) NULL,
        FOREIGN KEY (demo_id) REFERENCES demo (id) ON DELETE CASCADE
    )""",
    # No foreign keys: entries are written in batches behind the requests, and outlive what they count.
    """CREATE TABLE IF NOT EXISTS prediction (
        id BIGINT AUTO_INCREMENT PRIMARY KEY,
        at DATETIME(6) NOT NULL,
        demo_id INT NOT NULL,
        release_number INT NULL,
        duration_ms DOUBLE NOT NULL,
        outcome VARCHAR(16) NOT NULL,
        inputs LONGTEXT NULL,
        KEY of_demo_by_time (demo_id, at)
    )""",
]
