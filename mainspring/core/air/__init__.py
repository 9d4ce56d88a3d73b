"""Air: density, fans and ducts."""
