"""What belongs to the workshop rather than to one of its jobs."""
