"""Packing: from pieces and sheets to a layout."""
