"""The simulated devices at work: dry runs, the practice bench, and pictures of what they made."""
