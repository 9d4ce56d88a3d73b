"""Money: what the saved energy is worth, and when it pays back."""
