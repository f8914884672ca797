"""The kinds of edge, a module each."""
