"""Art that is read, a module a kind; all of them run in a child with limits."""
