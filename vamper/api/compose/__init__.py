"""Composed pieces."""
