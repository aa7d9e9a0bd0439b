"""What would help, tried in the model."""
