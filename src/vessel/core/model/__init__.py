"""What the world is: soil, lines, kit, setups and readings. Immutable, SI units, rms."""
