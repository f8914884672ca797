"""Open formats: one module each, reading and writing what core computes with."""
