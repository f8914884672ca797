"""Findings that a maker may answer "I mean it" to, by their codes, and what each answer is about (`answers.toml`).

An answer quiets a finding and lets no stop through that was not answered: what cannot be made, and what could hurt,
stands in no table here.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Annotated

from annotated_types import Len

from vamper.core.values.limits import ONE_LINE
from vamper.core.values.tables import table

_TABLE = table(__package__, "answers.toml")
I_MEAN_IT = "I mean it"


@dataclass(frozen=True, slots=True)
class Answerable:
    """The fields of the design (`about`, dotted) and of its `job` that an answer hangs on; a change in any of them asks
    again. `say` is the answer in words; `stops` whether a stop can be answered as well.
    """

    about: tuple[str, ...] = ()
    job: tuple[str, ...] = ()
    say: str = I_MEAN_IT
    stops: bool = True


def _answerable(data: dict[str, object]) -> Answerable:
    lists = {name: tuple(value) for name, value in data.items() if isinstance(value, list)}
    return Answerable(**(data | lists))  # type: ignore[arg-type]


OF_DESIGN: dict[str, Answerable] = {code: _answerable(data) for code, data in _TABLE["design"].items()}
OF_JOB: dict[str, Answerable] = {code: _answerable(data) for code, data in _TABLE["job"].items()}
Codes = Annotated[tuple[Annotated[str, Len(1, 40), ONE_LINE], ...], Len(0, 60)]


def check_codes(codes: Iterable[str], known: dict[str, Answerable]) -> None:
    """Refuse answers to what cannot be answered so.

    Raises
    ------
    ValueError
        Naming the first code that is unknown, or that is no matter of taste or knowledge.
    """
    for code in codes:
        if code not in known:
            raise ValueError(f"meant: “{code}” cannot be answered here; known are {', '.join(known)}")
