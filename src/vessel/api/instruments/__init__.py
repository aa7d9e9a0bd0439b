"""Attached instruments: what is connected, and what they show now."""
