"""PDF documents, a page at a time."""

from vamper.formats.art_in.kind import ArtKind
from vamper.formats.art_in.pdf import pages_of, read_pdf, sketch_pdf

KIND = ArtKind(
    key="pdf",
    place=5,
    name="PDF",
    media_type="application/pdf",
    endings=(".pdf",),
    is_it=lambda data: b"%PDF-" in data[:1024],
    read=read_pdf,
    sketch=sketch_pdf,
    pages=pages_of,
)
