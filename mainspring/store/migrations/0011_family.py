"""Families of drives that people made, each version as it was; with which version a setting was read back."""


def up(migrator, db):
    db.execute_sql("""CREATE TABLE IF NOT EXISTS family (
        id VARCHAR(40) NOT NULL PRIMARY KEY, digest VARCHAR(64) NOT NULL, revision INTEGER NOT NULL,
        summary LONGTEXT NOT NULL, done_by VARCHAR(120) NOT NULL, done_at DATETIME(6) NOT NULL
        ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci""")
    db.execute_sql("""CREATE TABLE IF NOT EXISTS family_version (
        digest VARCHAR(64) NOT NULL PRIMARY KEY, family VARCHAR(40) NOT NULL, body LONGTEXT NOT NULL,
        done_by VARCHAR(120) NOT NULL, done_at DATETIME(6) NOT NULL, KEY family_version_family (family)
        ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci""")
    db.execute_sql("ALTER TABLE setting_entry ADD COLUMN IF NOT EXISTS family VARCHAR(64) NOT NULL DEFAULT ''")
