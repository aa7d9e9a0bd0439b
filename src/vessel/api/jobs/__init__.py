"""Jobs: list, create, import and export."""
