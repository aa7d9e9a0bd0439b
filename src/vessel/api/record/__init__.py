"""The printed record."""
