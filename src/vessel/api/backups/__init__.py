"""Backups of the database: what there is, and one made now."""
