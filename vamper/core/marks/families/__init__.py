"""The families of registration marks, a module each."""
