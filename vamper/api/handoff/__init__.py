"""Files to take away."""
