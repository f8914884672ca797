"""A stock as files may say it: the name of a starter, or a stock of one's own with all its fields."""

from typing import Any

from vamper.core.values.findings import BadInput
from vamper.core.values.stock import STOCK_BY_KEY


def stock_in(value: Any, where: str = "stock") -> Any:
    """The data of a stock with its name spelt out; data that is no name is left for the model to read.

    Raises
    ------
    BadInput
        If no starter is called so; names the field.
    """
    if not isinstance(value, str):
        return value
    if value not in STOCK_BY_KEY:
        raise BadInput(f"no stock is called “{value[:40]}”; known are {', '.join(STOCK_BY_KEY)}", where)
    return STOCK_BY_KEY[value]


def settings_in(settings: Any, where: str) -> Any:
    """Named settings with the stocks of what was seen spelt out."""
    if not isinstance(settings, list):
        return settings
    return [_setting_in(one, f"{where}.{place}") for place, one in enumerate(settings)]


def _setting_in(setting: Any, where: str) -> Any:
    seen = setting.get("seen") if isinstance(setting, dict) else None
    if not isinstance(seen, list):
        return setting
    spelt = [
        {**one, "stock": stock_in(one["stock"], f"{where}.seen.{place}.stock")}
        if isinstance(one, dict) and "stock" in one
        else one
        for place, one in enumerate(seen)
    ]
    return {**setting, "seen": spelt}
