"""Readings across the line: what lies under them, and the best estimate."""
