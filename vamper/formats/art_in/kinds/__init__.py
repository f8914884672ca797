"""The kinds of art file, a module each."""
