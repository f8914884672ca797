"""Sums of money as a maker writes them: a sign like $ before the figure, a word or another sign after it."""

_BEFORE = "$£¥₹"


def money(value: float, currency: str) -> str:
    """A sum with two digits, in the workshop's currency as it was typed; the figure alone where none was."""
    sign = "-" if value < -0.005 else ""
    figure = f"{abs(value):.2f}"
    if currency and currency[-1] in _BEFORE:
        return f"{sign}{currency}{figure}"
    return f"{sign}{figure} {currency}".strip()
