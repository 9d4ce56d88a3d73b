"""Open formats in and out: the whole line as JSON, settings as CSV, the hand-over as PDF."""
