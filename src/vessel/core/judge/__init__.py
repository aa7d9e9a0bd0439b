"""What a reading is worth."""
