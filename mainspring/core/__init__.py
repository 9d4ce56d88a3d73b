"""The rules of the job: pure computation that knows no database, web or file."""
