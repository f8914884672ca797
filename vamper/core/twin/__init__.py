"""The twin: a simulated printer, sensor and cutter, driven by the files that real ones get."""
