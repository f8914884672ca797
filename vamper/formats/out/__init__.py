"""Files that are handed over, a module a kind."""
