"""Lines of a job."""
