"""The first sweep."""
