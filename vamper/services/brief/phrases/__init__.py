"""The phrases of the brief, a module each."""
