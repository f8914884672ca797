"""Vamper: planner, calculator, simulator and logbook for stickers and decals cut at home."""
