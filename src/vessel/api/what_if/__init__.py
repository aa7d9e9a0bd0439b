"""What if: one setup asked again."""
