"""What the current does: line parameters, circuit, sources, field and receiver. Phasors exp(+jwt), rms."""
