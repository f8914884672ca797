"""PDF documents, a page at a time."""

from vamper.formats.art_in.kind import ArtKind
from vamper.formats.art_in.pdf import pages_of, read_pdf, sketch_pdf

KIND = ArtKind(
    "pdf",
    5,
    "PDF",
    "application/pdf",
    (".pdf",),
    lambda data: b"%PDF-" in data[:1024],
    read_pdf,
    sketch_pdf,
    pages_of,
)
