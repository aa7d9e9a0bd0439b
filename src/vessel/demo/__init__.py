"""The ferry-terminal job as data."""
