"""Visits with their instruments and end; evidence with its instrument and when the server took it."""


def up(migrator, db):
    db.execute_sql("""ALTER TABLE visit
        ADD COLUMN IF NOT EXISTS instruments LONGTEXT NOT NULL DEFAULT '[]',
        ADD COLUMN IF NOT EXISTS note VARCHAR(2000) NOT NULL DEFAULT '',
        ADD COLUMN IF NOT EXISTS closed_at DATETIME(6) NULL""")
    db.execute_sql("""ALTER TABLE evidence
        ADD COLUMN IF NOT EXISTS instrument LONGTEXT NULL,
        ADD COLUMN IF NOT EXISTS received_at DATETIME(6) NULL""")
