"""Access codes of drives, encrypted; their key lies beside the data folder and not here."""


def up(migrator, db):
    db.execute_sql("""CREATE TABLE IF NOT EXISTS access_code (
        line_id VARCHAR(36) NOT NULL PRIMARY KEY, secret VARCHAR(2000) NOT NULL,
        done_by VARCHAR(120) NOT NULL, done_at DATETIME(6) NOT NULL,
        CONSTRAINT access_code_line_fk FOREIGN KEY (line_id) REFERENCES drive_line (id) ON DELETE CASCADE
        ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci""")
