"""Along the line: what happened, how far marks carry, which are due."""
