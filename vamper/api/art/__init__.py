"""Designs and their art, one at a time."""
