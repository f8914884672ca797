"""The trainer at work: lessons played on the twin, kept with the workshop."""
