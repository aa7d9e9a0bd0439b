"""Hookups and transmitter readings."""
