"""What was changed on a job, by whom and why: read from the journal."""
