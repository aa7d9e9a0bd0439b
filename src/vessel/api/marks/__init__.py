"""Marks on the ground."""
