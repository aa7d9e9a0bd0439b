"""The one circuit: mesh, ports, sources, and what flows."""
