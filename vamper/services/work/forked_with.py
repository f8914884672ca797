"""What every child is forked with, read once: the kinds of art, so that no child has to read them for one file."""

import gc

from vamper.formats.art_in.kind import KINDS

EVERY_KIND = tuple(KINDS)

# What a child is forked with is not looked over for waste, and stays shared with the others.
gc.freeze()
