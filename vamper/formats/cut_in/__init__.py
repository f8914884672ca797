"""Cut files read back."""
