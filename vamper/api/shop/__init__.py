"""What belongs to the workshop."""
