"""Pieces where they lie: what they keep from each other, where there is room, how hands move them."""
