"""A counter of changes for each line and site; evidence with the clocks it was kept by; visits entered from paper."""


def up(migrator, db):
    db.execute_sql("ALTER TABLE site ADD COLUMN IF NOT EXISTS seq INT NOT NULL DEFAULT 1")
    db.execute_sql("""ALTER TABLE drive_line
        ADD COLUMN IF NOT EXISTS seq INT NOT NULL DEFAULT 1,
        ADD COLUMN IF NOT EXISTS settings_seq INT NOT NULL DEFAULT 1,
        ADD COLUMN IF NOT EXISTS visits_seq INT NOT NULL DEFAULT 1,
        ADD INDEX IF NOT EXISTS drive_line_seq (seq)""")
    db.execute_sql("""ALTER TABLE visit
        ADD COLUMN IF NOT EXISTS paper BOOL NOT NULL DEFAULT 0""")
    db.execute_sql("""ALTER TABLE evidence
        ADD COLUMN IF NOT EXISTS seq INT NOT NULL DEFAULT 1,
        ADD COLUMN IF NOT EXISTS paper BOOL NOT NULL DEFAULT 0,
        ADD COLUMN IF NOT EXISTS kept_at DATETIME(6) NULL,
        ADD COLUMN IF NOT EXISTS boot VARCHAR(36) NOT NULL DEFAULT '',
        ADD COLUMN IF NOT EXISTS uptime DOUBLE NULL,
        ADD COLUMN IF NOT EXISTS digest VARCHAR(64) NOT NULL DEFAULT '',
        ADD INDEX IF NOT EXISTS evidence_seq (line_id, seq)""")
    db.execute_sql("ALTER TABLE event ADD COLUMN IF NOT EXISTS seq INT NULL")
