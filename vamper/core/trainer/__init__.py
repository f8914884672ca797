"""The trainer: lessons on a practice bench, where sheets may be spoiled."""
