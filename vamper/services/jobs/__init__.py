"""Jobs, their history, and what is done to their designs."""
