"""The ways in which pieces share sheets, a module each."""
