"""Everything to hand over in one zip: print and cut files, the plan, the job file and its art."""

import io
import zipfile
from collections.abc import Mapping

# Fixed, so that the same plan makes the same bundle.
_WHEN = (2000, 1, 1, 0, 0, 0)


def write_bundle(files: Mapping[str, bytes]) -> bytes:
    """A zip of named files."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in files.items():
            archive.writestr(zipfile.ZipInfo(name, _WHEN), data, zipfile.ZIP_DEFLATED)
    return out.getvalue()
