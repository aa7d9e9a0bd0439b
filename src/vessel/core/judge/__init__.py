"""What a reading is worth: rules as a table, measures, verdict and wording."""
