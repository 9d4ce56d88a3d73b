"""Settings as found and as left."""


def up(migrator, db):
    db.execute_sql("""CREATE TABLE IF NOT EXISTS setting_entry (
        line_id VARCHAR(36) NOT NULL, setting VARCHAR(80) NOT NULL, moment VARCHAR(10) NOT NULL,
        value LONGTEXT NOT NULL, done_by VARCHAR(120) NOT NULL, done_at DATETIME(6) NOT NULL,
        PRIMARY KEY (line_id, setting, moment),
        CONSTRAINT setting_line_fk FOREIGN KEY (line_id) REFERENCES drive_line (id) ON DELETE CASCADE
        ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci""")
