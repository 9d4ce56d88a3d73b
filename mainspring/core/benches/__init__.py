"""Worked out of a whole record: motor load three ways, savings, and the plant that a loop is tuned for."""
