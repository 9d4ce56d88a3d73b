"""Photos of plates, as re-encoded pictures."""


def up(migrator, db):
    db.execute_sql("""CREATE TABLE IF NOT EXISTS photo (
        id VARCHAR(36) NOT NULL PRIMARY KEY, line_id VARCHAR(36) NOT NULL, station VARCHAR(20) NOT NULL,
        width INT NOT NULL, height INT NOT NULL, picture MEDIUMBLOB NOT NULL,
        done_by VARCHAR(120) NOT NULL, done_at DATETIME(6) NOT NULL, INDEX photo_line (line_id, done_at),
        CONSTRAINT photo_line_fk FOREIGN KEY (line_id) REFERENCES drive_line (id) ON DELETE CASCADE
        ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci""")
