"""Drive lines."""


def up(migrator, db):
    db.execute_sql("""CREATE TABLE IF NOT EXISTS drive_line (
        id VARCHAR(36) NOT NULL PRIMARY KEY, site_id VARCHAR(36) NOT NULL, tag VARCHAR(200) NOT NULL,
        title VARCHAR(200) NOT NULL DEFAULT '', record LONGTEXT NOT NULL, schema_version INT NOT NULL,
        revision INT NOT NULL DEFAULT 1, summary LONGTEXT NULL, created_at DATETIME(6) NOT NULL,
        updated_at DATETIME(6) NOT NULL, INDEX drive_line_site (site_id, tag),
        CONSTRAINT drive_line_site_fk FOREIGN KEY (site_id) REFERENCES site (id) ON DELETE RESTRICT
        ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci""")
