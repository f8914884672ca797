"""A file to take away, under a name that any file system can hold."""

from urllib.parse import quote

from fastapi import Response

from vamper.formats.safe_file_name import safe_file_name


def download(data: bytes, media_type: str, name: str) -> Response:
    plain = "".join(c if c.isascii() and (c.isalnum() or c in "-._") else "-" for c in name)
    named = f"attachment; filename=\"{plain}\"; filename*=UTF-8''{quote(safe_file_name(name))}"
    return Response(data, media_type=media_type, headers={"content-disposition": named})
