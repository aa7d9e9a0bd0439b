"""Plans of lines."""
