"""What the stations speak of: specifications with their limits, and the few things that all of them need."""
