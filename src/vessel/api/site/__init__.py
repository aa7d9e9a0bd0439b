"""The site plan of a job."""
