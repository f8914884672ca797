"""Print: settings, proof, ink, swatches."""
