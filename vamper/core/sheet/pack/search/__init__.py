"""The search for a mixed layout."""
