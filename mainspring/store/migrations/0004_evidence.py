"""Evidence, only ever added."""


def up(migrator, db):
    db.execute_sql("""CREATE TABLE IF NOT EXISTS evidence (
        id VARCHAR(36) NOT NULL PRIMARY KEY, line_id VARCHAR(36) NOT NULL, visit_id VARCHAR(36) NULL,
        step VARCHAR(80) NOT NULL, kind VARCHAR(20) NOT NULL, data LONGTEXT NOT NULL, leaves LONGTEXT NOT NULL,
        passed BOOL NOT NULL, done_by VARCHAR(120) NOT NULL, done_at DATETIME(6) NOT NULL,
        note VARCHAR(2000) NOT NULL DEFAULT '', INDEX evidence_line (line_id, done_at),
        CONSTRAINT evidence_line_fk FOREIGN KEY (line_id) REFERENCES drive_line (id) ON DELETE CASCADE,
        CONSTRAINT evidence_visit_fk FOREIGN KEY (visit_id) REFERENCES visit (id) ON DELETE SET NULL
        ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci""")
