"""What the application does: one function per use, between the web and core and store."""
