"""Ground faults found with a frame."""
