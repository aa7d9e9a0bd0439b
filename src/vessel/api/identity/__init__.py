"""Which line it is."""
