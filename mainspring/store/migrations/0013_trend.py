"""Logs of a line: what each is, and its columns in pieces, each a Parquet file of its own."""


def up(migrator, db):
    db.execute_sql("""CREATE TABLE IF NOT EXISTS trend (
        id VARCHAR(36) NOT NULL PRIMARY KEY, line_id VARCHAR(36) NOT NULL, side VARCHAR(10) NOT NULL,
        name VARCHAR(200) NOT NULL, layout LONGTEXT NOT NULL, signature VARCHAR(64) NOT NULL,
        digest VARCHAR(64) NOT NULL, summary LONGTEXT NOT NULL, aside BOOL NOT NULL DEFAULT 0,
        done_by VARCHAR(120) NOT NULL, done_at DATETIME(6) NOT NULL,
        KEY trend_line (line_id), KEY trend_signature (signature, done_at),
        CONSTRAINT trend_of_line FOREIGN KEY (line_id) REFERENCES drive_line (id) ON DELETE CASCADE
        ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci""")
    db.execute_sql("""CREATE TABLE IF NOT EXISTS trend_part (
        trend_id VARCHAR(36) NOT NULL, quantity VARCHAR(40) NOT NULL, part INTEGER NOT NULL, piece LONGBLOB NOT NULL,
        PRIMARY KEY (trend_id, quantity, part),
        CONSTRAINT part_of_trend FOREIGN KEY (trend_id) REFERENCES trend (id) ON DELETE CASCADE
        ) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_520_ci""")
