"""What never changes: presets, soils, utilities, how typed text is understood."""
