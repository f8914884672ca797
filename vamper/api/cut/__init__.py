"""What the cutter is set to."""
