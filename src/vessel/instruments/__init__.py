"""Instruments as a stream of messages: its format, adapters from other streams, and stand-ins that need no device."""
