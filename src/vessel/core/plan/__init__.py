"""What to do: setups, their order, and what if."""
