"""What a motor does: speed, current, efficiency and load."""
