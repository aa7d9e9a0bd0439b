"""A hookup in progress: safe order, transmitter, continuity, sweep, trace."""
