"""One station: criteria, measures and the verdict."""
