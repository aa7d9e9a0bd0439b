"""The criteria, and a crew's own limits."""
