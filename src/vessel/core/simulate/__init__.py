"""A site solved for every setup, and read as a technician would."""
