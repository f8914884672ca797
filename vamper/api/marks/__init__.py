"""Marks: what the sensor sees, where cuts land, calibration, helpers to print."""
