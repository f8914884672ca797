"""Dry runs on the simulated devices, and the practice bench, on the wire."""
