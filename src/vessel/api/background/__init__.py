"""The picture under a site plan."""
