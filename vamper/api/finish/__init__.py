"""Finish: a job's steps after the cut, and the evening that several jobs share."""
