"""Work in the background: child processes, turns, what was computed once."""
