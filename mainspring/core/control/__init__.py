"""Controller tuning, action and the sleep settings."""
