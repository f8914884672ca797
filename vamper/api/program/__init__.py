"""The machine's own program on the wire."""
