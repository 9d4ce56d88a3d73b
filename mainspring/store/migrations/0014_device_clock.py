"""The running clock of the device on which evidence was made, by which a wait without a link is told."""


def up(migrator, db):
    db.execute_sql("ALTER TABLE evidence ADD COLUMN IF NOT EXISTS device VARCHAR(36) NOT NULL DEFAULT ''")
    db.execute_sql("ALTER TABLE evidence ADD COLUMN IF NOT EXISTS ran DOUBLE NULL")
