"""Marking by the local rule."""
