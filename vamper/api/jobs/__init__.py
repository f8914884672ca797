"""Jobs, their changes and their packing."""
