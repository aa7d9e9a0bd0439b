"""Open formats in and out; nothing else writes files."""
