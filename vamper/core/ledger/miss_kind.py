"""What kind of miss the pieces of a sheet show: all off by the same, more and more toward one side, or along the feed.

The misses are fitted as one shift and as a shift that grows across the sheet. Where the growth tells clearly more than
the shift, it is what a maker would see; along the feed alone it is told apart, since it has causes of its own.
"""

import numpy as np
import numpy.typing as npt

Floats = npt.NDArray[np.float64]

EVEN, GROWING, ALONG_FEED = "cut-off-even", "cut-off-growing", "cut-off-feed"
_FEWEST = 4
# A growth is seen where it changes the miss over the sheet by more than the shift itself and this, mm.
_SEEN_MM = 0.3
# How much of what a shift leaves open the growth must tell.
_TELLS = 0.5
# Across the feed hardly anything, beside what there is along it.
_HARDLY = 0.4


def kind_of_misses(places: Floats, misses: Floats) -> str:
    """The symptom that misses (n, 2) of pieces at these places (n, 2) show, right and down, mm; the feed is down."""
    if len(places) < _FEWEST or np.ptp(places, axis=0).max() == 0:
        return EVEN
    shift = misses.mean(axis=0)
    terms = np.column_stack([np.ones(len(places)), places - places.mean(axis=0)])
    grown = terms @ np.linalg.lstsq(terms, misses, rcond=None)[0]
    left, told = float(((misses - shift) ** 2).sum()), float(((grown - shift) ** 2).sum())
    over_sheet = np.ptp(grown, axis=0)
    if told < _TELLS * left or over_sheet.max() < max(_SEEN_MM, float(np.hypot(*shift))):
        return EVEN
    along = over_sheet[1] > over_sheet[0] and np.abs(misses[:, 0]).mean() < _HARDLY * np.abs(misses[:, 1]).mean()
    return ALONG_FEED if along else GROWING
