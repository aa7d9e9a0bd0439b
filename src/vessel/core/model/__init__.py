"""What the world is: immutable records in SI units that check themselves."""
