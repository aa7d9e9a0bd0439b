"""What a sonde run is worth."""
