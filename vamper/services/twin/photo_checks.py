"""Photos and scans of a job's sheets, held against its plan: the last one of each job is kept to be looked at.

Only what was read from it is kept, with the picture of the straightened sheet; the photo itself is forgotten.
"""

import itertools
import threading
from dataclasses import dataclass
from typing import TypeVar

import numpy as np

from vamper.core.plan import Plan
from vamper.core.values.findings import BadInput
from vamper.core.values.units import MM_PER_INCH
from vamper.core.vision.loose_pieces import LoosePieces, loose_pieces
from vamper.core.vision.print_comparison import Comparison, compare_print
from vamper.core.vision.rectify import RectifiedPicture, rectify_by_corners
from vamper.core.vision.reference import Pixels, SheetReference, reference_of
from vamper.core.vision.weeded_sheet import WeededSheet, weeded_sheet
from vamper.formats.reference_in import PRINT_PPI, print_pixels
from vamper.services.handoff.drafts import Pictures, drafted
from vamper.services.handoff.files import PRINT_KEY, sheet_file
from vamper.services.twin.comparing import compared_print, found_as_it_reads

_KEPT = 8
Corners = tuple[tuple[float, float], ...]


@dataclass(frozen=True)
class PrintCheck:
    """A print beside its plan; `picture` is the straightened sheet."""

    number: int
    sheet: int
    planned: SheetReference
    found: Comparison
    ppi: float | None


@dataclass(frozen=True)
class WeededCheck:
    """A weeded sheet beside its plan."""

    number: int
    sheet: int
    planned: SheetReference
    found: WeededSheet
    straightened: RectifiedPicture


@dataclass(frozen=True)
class PiecesCheck:
    """Loose pieces beside their designs.

    Parameters
    ----------
    number, sheet : int
        The check's number, and the sheet, from 1.
    planned, found : SheetReference, LoosePieces
        What was to be made, and what lies there.
    picture, ppi : array of shape (h, w, 3), float
        The scan and its resolution.
    """

    number: int
    sheet: int
    planned: SheetReference
    found: LoosePieces
    picture: Pixels
    ppi: float


AnyCheck = PrintCheck | WeededCheck | PiecesCheck
Check = TypeVar("Check", PrintCheck, WeededCheck, PiecesCheck)


class PhotoChecks:
    """The last check of each job."""

    def __init__(self) -> None:
        self._of: dict[int, AnyCheck] = {}
        self._count = itertools.count(1)
        self._guard = threading.Lock()

    def latest(self, job_id: int) -> AnyCheck | None:
        return self._of.get(job_id)

    def check_print(
        self,
        job_id: int,
        plan: Plan,
        sheet: int,
        pictures: Pictures,
        picture: Pixels,
        ppi: float | None,
        corners: Corners | None = None,
    ) -> PrintCheck:
        """Hold a picture of a printed sheet (from 0) against the plan; `corners` show where it lies, as shares of the
        picture from its top left round, where its marks are not found.

        Raises
        ------
        BadInput
            If the sheet is not in sight, or is another sheet.
        """
        planned = _planned(plan, sheet, pictures)
        if corners is None:
            found = compared_print(picture, planned)
        else:
            found = compare_print(picture, planned, _lying(picture, planned, corners))
        return self._keep(job_id, PrintCheck(next(self._count), sheet, planned, found, ppi))

    def check_weeded(
        self,
        job_id: int,
        plan: Plan,
        sheet: int,
        pictures: Pictures,
        picture: Pixels,
        corners: Corners | None = None,
    ) -> WeededCheck:
        """Hold a picture of a weeded sheet (from 0) against the plan; `corners` as for a print.

        Raises
        ------
        BadInput
            If the sheet is not in sight, or its pieces cannot be told from their backing.
        """
        planned = _planned(plan, sheet, pictures)
        lying = found_as_it_reads(picture, planned) if corners is None else _lying(picture, planned, corners)
        found = weeded_sheet(picture, planned, lying)
        return self._keep(job_id, WeededCheck(next(self._count), sheet, planned, found, lying))

    def check_pieces(
        self, job_id: int, plan: Plan, sheet: int, pictures: Pictures, picture: Pixels, ppi: float
    ) -> PiecesCheck:
        """Tell loose pieces in a flat scan by the designs of a sheet (from 0)."""
        planned = _planned(plan, sheet, pictures)
        found = loose_pieces(picture, ppi, planned)
        return self._keep(job_id, PiecesCheck(next(self._count), sheet, planned, found, picture, ppi))

    def forget(self, job_id: int) -> None:
        self._of.pop(job_id, None)

    def _keep(self, job_id: int, check: Check) -> Check:
        with self._guard:
            self._of.pop(job_id, None)
            self._of[job_id] = check
            for old in list(self._of)[:-_KEPT]:
                del self._of[old]
        return check


def _lying(picture: Pixels, planned: SheetReference, corners: Corners) -> RectifiedPicture:
    return rectify_by_corners(picture, planned, np.array(corners) * (picture.shape[1], picture.shape[0]))


def _planned(plan: Plan, sheet: int, pictures: Pictures) -> SheetReference:
    """A sheet (from 0) with what its own print file shows."""
    if not 0 <= sheet < len(plan.sheets):
        raise BadInput("nothing lies on this sheet, so there is nothing to hold the picture against", "sheet")
    draft, small = drafted(plan, pictures)
    printed = sheet_file(draft, sheet, PRINT_KEY, small) if plan.job.stock.printable else None
    if printed is None:
        return reference_of(plan, sheet)
    return reference_of(plan, sheet, print_pixels(printed, plan.job), PRINT_PPI / MM_PER_INCH)
