"""Lines in space: from a line on the job to the site around it."""
