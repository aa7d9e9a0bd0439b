"""Typed text in and figures out: what a technician types, and how quantities are written."""
