"""Visits."""


def up(migrator, db):
    db.execute_sql("""CREATE TABLE IF NOT EXISTS visit (
        id VARCHAR(36) NOT NULL PRIMARY KEY, line_id VARCHAR(36) NOT NULL, purpose VARCHAR(40) NOT NULL,
        opened_by VARCHAR(120) NOT NULL, opened_at DATETIME(6) NOT NULL, INDEX visit_line (line_id, opened_at),
        CONSTRAINT visit_line_fk FOREIGN KEY (line_id) REFERENCES drive_line (id) ON DELETE CASCADE
        ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci""")
