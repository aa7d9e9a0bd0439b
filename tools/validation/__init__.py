"""What the signal model and the judge reach, measured: docs/validation.md."""
