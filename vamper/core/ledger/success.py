"""How often something went well, and how sure that is: a share with the interval that holds 90 of 100 beliefs.

After so many good and bad runs, with nothing known before, the share is Beta(1 + good, 1 + bad) distributed; the
interval reaches from its 5th to its 95th hundredth.
"""

from dataclasses import dataclass
from functools import lru_cache

from scipy.special import betaincinv

_LOW, _HIGH = 0.05, 0.95


@dataclass(frozen=True, slots=True)
class Success:
    """`share` is the mean belief, `low` and `high` hold it in 90 of 100; all 0..1."""

    good: int
    bad: int
    share: float
    low: float
    high: float


@lru_cache(maxsize=4096)
def success_of(good: int, bad: int) -> Success:
    """The success after so many good and bad runs."""
    low, high = (float(betaincinv(1 + good, 1 + bad, share)) for share in (_LOW, _HIGH))
    return Success(good, bad, (1 + good) / (2 + good + bad), low, high)
