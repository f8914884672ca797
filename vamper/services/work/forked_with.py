"""What every child is forked with, read once: the kinds of art, so that no child has to read them for one file."""

from vamper.formats.art_in.kind import KINDS

EVERY_KIND = tuple(KINDS)
