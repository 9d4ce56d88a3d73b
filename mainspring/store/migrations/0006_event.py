"""The event log."""


def up(migrator, db):
    db.execute_sql("""CREATE TABLE IF NOT EXISTS event (
        id INT NOT NULL AUTO_INCREMENT PRIMARY KEY, at DATETIME(6) NOT NULL, who VARCHAR(120) NOT NULL,
        what VARCHAR(40) NOT NULL, site_id VARCHAR(36) NULL, line_id VARCHAR(36) NULL,
        subject VARCHAR(200) NOT NULL DEFAULT '', `before` LONGTEXT NULL, `after` LONGTEXT NULL,
        INDEX event_line (line_id, id)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci""")
