"""What a walk with the frame is worth."""
