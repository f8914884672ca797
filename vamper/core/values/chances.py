"""Chances in words, as tries of a hundred."""

_CERTAIN = 0.99


def in_100(chance: float) -> str:
    """A chance as tries of a hundred, never more certain than it is."""
    if chance > _CERTAIN:
        return "more than 99"
    if chance < 1 - _CERTAIN:
        return "fewer than 1"
    return f"{chance * 100:.0f}"


def in_100_short(chance: float) -> str:
    """The same where there is little room."""
    return in_100(chance).replace("more than", ">").replace("fewer than", "<")


def good_in(usable: float) -> str:
    """How often a sheet comes out, for a maker who looks before unloading it."""
    return f"good in {in_100(usable)} of 100 if you look before unloading"
