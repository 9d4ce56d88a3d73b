"""The demo: two made-up sites with pump lines in different stages, one of them with planted mistakes."""
