"""Every rule and computation of Vessel: no web, database or file code."""
