"""Sonde runs."""
