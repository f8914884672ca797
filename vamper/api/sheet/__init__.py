"""A job's sheets: layouts, pieces in hand, counts."""
