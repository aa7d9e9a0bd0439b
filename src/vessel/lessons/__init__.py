"""Lessons of the practice yard, as open lesson files."""
