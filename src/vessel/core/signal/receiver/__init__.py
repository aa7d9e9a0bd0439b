"""What the receiver shows of a field."""
