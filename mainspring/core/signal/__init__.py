"""Transducers, current loops and what the input should read."""
