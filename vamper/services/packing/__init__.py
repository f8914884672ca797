"""Layouts: searched for in the background, moved by hand, kept under a name, counted, scaled."""
