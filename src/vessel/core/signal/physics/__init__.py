"""One phenomenon a module: impedances, potentials, fields."""
