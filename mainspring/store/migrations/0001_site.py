"""Sites."""


def up(migrator, db):
    db.execute_sql("""CREATE TABLE IF NOT EXISTS site (
        id VARCHAR(36) NOT NULL PRIMARY KEY, name VARCHAR(200) NOT NULL, units VARCHAR(2) NOT NULL DEFAULT 'si',
        entries LONGTEXT NOT NULL, revision INT NOT NULL DEFAULT 1, created_at DATETIME(6) NOT NULL
        ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci""")
