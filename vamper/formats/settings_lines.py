"""Settings of a machine's list as a maker types them: one name a line, several at once, in any order."""

from collections.abc import Iterable

from vamper.core.values.findings import BadInput
from vamper.core.values.named_settings import NamedSetting
from vamper.core.values.tried import Pressure

MOST_LETTERS = 80


def settings_of_lines(text: str, pressures: Iterable[Pressure] = ()) -> tuple[NamedSetting, ...]:
    """The settings that stand in a text; empty lines do not count.

    Raises
    ------
    BadInput
        If nothing stands there, or a name is too long; says which line.
    """
    found = []
    for number, line in enumerate(text.splitlines(), 1):
        name = " ".join(line.split())
        if not name:
            continue
        if len(name) > MOST_LETTERS:
            raise BadInput(
                f"line {number} is longer than {MOST_LETTERS} letters; type only the setting's name there", "lines"
            )
        found.append(NamedSetting(name, tuple(pressures)))
    if not found:
        raise BadInput("type the names of the settings as they stand in your machine's list, one a line", "lines")
    return tuple(found)
