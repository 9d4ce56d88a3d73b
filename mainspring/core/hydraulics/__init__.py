"""Pumps and the systems they feed."""
