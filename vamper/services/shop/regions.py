"""What a region measures in and pays with: a proposal for a workshop that has said neither."""

from dataclasses import dataclass

from vamper.core.values.tables import table

_TABLE = table(__package__, "regions.toml")


@dataclass(frozen=True, slots=True)
class Regions:
    """The regions (ISO 3166) that measure in inches, and the sign of each one's currency."""

    inches: tuple[str, ...]
    currencies: dict[str, str]


REGIONS = Regions(tuple(_TABLE["inches"]), dict(_TABLE["currencies"]))
