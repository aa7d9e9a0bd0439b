"""Rival explanations of what is read over a line, and which of them are still possible."""
