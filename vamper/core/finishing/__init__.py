"""What happens after the cut: coats, soaking, pressing, baking, wrapping; when, on what, and what can hurt."""
