"""What the current does."""
