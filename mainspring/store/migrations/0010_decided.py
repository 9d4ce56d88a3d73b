"""Settings that somebody decided, with the reason; values taken from the plan and not read back."""


def up(migrator, db):
    db.execute_sql("""ALTER TABLE setting_entry
        ADD COLUMN IF NOT EXISTS why VARCHAR(500) NOT NULL DEFAULT '',
        ADD COLUMN IF NOT EXISTS taken BOOL NOT NULL DEFAULT 0""")
