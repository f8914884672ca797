"""Which of a machine's named settings to take: the setting, its pressure and its passes with the best outlook.

The figures choose (`settings_posterior`, `outlook`) among what was not told to be wrong (`known_outcomes`): what is
known to press as hard as what went through, or is believed to, is left alone, and so is what is as gentle as what did
not get through; what was clean is taken again. On an offcut the setting is tried that is expected to tell most. Source:
craft/program.md, "Named settings".
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field

import numpy as np

from vamper.core.cutting.belief import HardnessBelief
from vamper.core.cutting.known_outcomes import TOO_MUCH, holds_now
from vamper.core.cutting.setting_names import LOOK_FOR, starter_force_gf
from vamper.core.cutting.settings_posterior import SettingNode, SettingsPosterior, known_harder, settings_posterior
from vamper.core.values.cutter import ForceRange
from vamper.core.values.named_settings import NamedSetting, SettingChoice
from vamper.core.values.tried import MOST_PASSES, Outcome, Pressure

# A pass more is only planned where it brings more than this.
_PASS_WORTH = 0.005
# A test cut that is expected to bring less is not worth its offcut: two points of the outcome.
_DONE_AT = 0.02
# With so good an outlook a trial on an offcut is no longer worth its while.
_SURE_ENOUGH = 0.955
NOTHING_LEFT = (
    "None of its settings is left: each went through, tore or did not get through. Add another one from the machine's "
    "list, let the blade out less far, or take another blade or stock."
)


@dataclass(frozen=True, slots=True)
class PlacedSetting:
    """A named setting at one of its pressures, placed on the scale of force.

    Parameters
    ----------
    name : str
        What the machine calls it.
    pressure : Pressure or None
        The pressure chosen with it; None where it has no such choice.
    p5_gf, median_gf, p95_gf : float
        The force that it is believed to press with, gf: the middle and the ends of nine tenths of it.
    usable : float
        The chance of a usable sheet in as many passes as are proposed.
    seen : int
        How many outcomes of it are known.
    """

    name: str
    pressure: Pressure | None
    p5_gf: float
    median_gf: float
    p95_gf: float
    usable: float
    seen: int


@dataclass(frozen=True, slots=True)
class NamedProposal:
    """What is proposed in the machine's own words, with its chances.

    Parameters
    ----------
    choice : SettingChoice or None
        None where the list is empty, or nothing of it is left.
    usable, at_first, clean : float
        The chance of a usable sheet with a look before unloading, of a usable one at the first go, of a clean cut then.
        Without a choice, the chances of a setting as it is usually found by its name.
    placed : tuple of PlacedSetting
        All settings with where they stand.
    next_try, done : SettingChoice or None, bool
        The trial on an offcut that tells most, and that it hardly would.
    look_for : str
        What to do where there is no choice.
    worked : bool
        This was clean before.
    speaks : bool
        False for machines that have no such list.
    press_um : tuple of float
        Equally likely values of what the setting presses on this stock: its force over the stock's hardness, µm.
    """

    choice: SettingChoice | None = None
    usable: float = 0.0
    at_first: float = 0.0
    clean: float = 0.0
    placed: tuple[PlacedSetting, ...] = ()
    next_try: SettingChoice | None = None
    done: bool = False
    look_for: str = ""
    worked: bool = False
    speaks: bool = False
    press_um: tuple[float, ...] = field(default=(), repr=False)

    @property
    def passes(self) -> int:
        return 0 if self.choice is None else self.choice.passes


def propose_setting(
    settings: Sequence[NamedSetting],
    belief: HardnessBelief,
    force: ForceRange,
    passes: int,
    only_these: bool = False,
    with_next: bool = True,
) -> NamedProposal:
    """The setting to choose on what is believed of a stock.

    Parameters
    ----------
    settings : sequence of NamedSetting
        In any order.
    belief : HardnessBelief
        The stock that is to be cut.
    passes : int
        How often it is run over, unless more are needed or as many were clean; `only_these` where the maker chose them.
    with_next : bool
        Whether to work out what to try next, which takes longest.
    """
    if not settings:
        return _nothing_typed(belief, force, passes)
    found = settings_posterior(settings, belief, force)
    told = _told(settings, found, belief)
    rules = _Rules(found, known_harder(settings, found.nodes), told)
    usual = [max(passes, settings[node.setting].passes) for node in found.nodes]
    counts = [[many] if only_these else list(range(many, MOST_PASSES + 1)) for many in usual]
    open_to = rules.open_to(counts)
    worked = rules.worked(counts)
    if not open_to and not worked:
        return NamedProposal(placed=_placed(settings, found, passes), look_for=NOTHING_LEFT, done=True, speaks=True)
    node, many = _best(found, worked or open_to)
    usable, at_first, clean, worth = found.outlook_of(node, many)
    next_try, gain = _next_try(found, open_to, worth) if with_next else (None, 0.0)
    return NamedProposal(
        choice=_choice(settings, found.nodes[node], many),
        usable=usable,
        at_first=at_first,
        clean=clean,
        placed=_placed(settings, found, many),
        next_try=None if next_try is None else _choice(settings, found.nodes[next_try[0]], next_try[1]),
        done=bool(worked) or gain < _DONE_AT or usable >= _SURE_ENOUGH,
        worked=bool(worked),
        speaks=True,
        press_um=found.press_um(node),
    )


@dataclass(frozen=True, slots=True)
class _Told:
    """The outcome of a node on this very stock in so many passes."""

    node: int
    passes: int
    outcome: Outcome


def _told(settings: Sequence[NamedSetting], found: SettingsPosterior, belief: HardnessBelief) -> tuple[_Told, ...]:
    """The newest outcome of each setting, told of this stock, cut and blade, that still binds."""
    nodes = {(node.setting, node.pressure or Pressure.USUAL): place for place, node in enumerate(found.nodes)}
    newest = dict[tuple[int, int], _Told]()
    for place, setting in enumerate(settings):
        for one in setting.seen:
            if one.stock.key != belief.stock.key or one.cut is not belief.cut:
                continue
            if one.blade is not found.blades[nodes[place, Pressure.USUAL]]:
                continue
            if not holds_now(one.outcome, one.metres, belief.sharpness):
                continue
            node = nodes[place, one.pressure or Pressure.USUAL]
            newest.pop((node, one.passes), None)
            newest[node, one.passes] = _Told(node, one.passes, one.outcome)
    return tuple(newest.values())


class _Rules:
    """The rules that hold whatever the figures say."""

    def __init__(self, found: SettingsPosterior, harder: list[set[int]], told: tuple[_Told, ...]) -> None:
        self._harder = harder
        self._told = told
        middles = [found.quantiles_gf(node, (0.5,))[0] for node in range(len(found.nodes))]
        self._middle = middles
        self._in_order = sorted(range(len(middles)), key=lambda node: middles[node])

    def open_to(self, counts: Sequence[Sequence[int]]) -> list[tuple[int, int]]:
        """Every node with its passes that nothing told speaks against: by the order that is known and by what is
        believed of it, by the known one alone where that leaves nothing.
        """
        every = [(node, many) for node, of in enumerate(counts) for many in of]
        for believed in (True, False):
            found = [one for one in every if self._is_allowed(*one, believed) and self._is_next(*one)]
            if found:
                return found
        return []

    def worked(self, counts: Sequence[Sequence[int]]) -> list[tuple[int, int]]:
        """The settings that were clean and have no outcome against them."""
        return [
            (one.node, one.passes)
            for one in self._told
            if one.outcome is Outcome.CLEAN
            and self._is_allowed(one.node, one.passes, False)
            and (len(counts[one.node]) > 1 or one.passes in counts[one.node])
        ]

    def _as_hard(self, node: int, other: int, believed: bool) -> bool:
        """Whether a node is known, or believed, to press at least as hard as another."""
        if node in self._harder[other]:
            return True
        return believed and other not in self._harder[node] and self._middle[node] >= self._middle[other]

    def _is_allowed(self, node: int, passes: int, believed: bool) -> bool:
        for one in self._told:
            if one.outcome in TOO_MUCH and passes >= one.passes and self._as_hard(node, one.node, believed):
                return False
            if one.outcome is Outcome.NOT_THROUGH and passes <= one.passes and self._as_hard(one.node, node, believed):
                return False
        return True

    def _is_next(self, node: int, passes: int) -> bool:
        """Whether it is no farther than one step on from the hardest that did not get through: that in one pass more,
        or the next harder.
        """
        short = [one for one in self._told if one.outcome is Outcome.NOT_THROUGH]
        if not short:
            return True
        hardest = max(short, key=lambda one: (self._middle[one.node], one.passes))
        if self._middle[node] <= self._middle[hardest.node]:
            return passes <= hardest.passes + 1
        place = self._in_order.index(hardest.node)
        harder = next(
            (one for one in self._in_order[place + 1 :] if self._middle[one] > self._middle[hardest.node]), -1
        )
        return node == harder and passes <= hardest.passes


def _choice(settings: Sequence[NamedSetting], node: SettingNode, passes: int) -> SettingChoice:
    return SettingChoice(settings[node.setting].name, node.pressure, passes)


def _best(found: SettingsPosterior, open_to: Iterable[tuple[int, int]]) -> tuple[int, int]:
    return max(open_to, key=lambda one: found.outlook_of(*one)[3] - _PASS_WORTH * one[1])


def _placed(settings: Sequence[NamedSetting], found: SettingsPosterior, passes: int) -> tuple[PlacedSetting, ...]:
    placed = []
    for place, node in enumerate(found.nodes):
        setting = settings[node.setting]
        if node.pressure is not None and node.pressure not in setting.pressures:
            continue
        seen = sum((one.pressure or Pressure.USUAL) is (node.pressure or Pressure.USUAL) for one in setting.seen)
        low, middle, high = found.quantiles_gf(place, (0.05, 0.5, 0.95))
        usable = found.outlook_of(place, max(passes, setting.passes))[0]
        placed.append(PlacedSetting(setting.name, node.pressure, low, middle, high, usable, seen))
    return tuple(placed)


def _next_try(
    found: SettingsPosterior, open_to: Sequence[tuple[int, int]], worth: float
) -> tuple[tuple[int, int] | None, float]:
    """The setting to try on an offcut, and the gain expected from the try: over the outcomes that it may have, the
    worth of what would be chosen then, less what is chosen now. What is learnt of the stock's hardness counts for all
    nodes, what is learnt of the force for the one that was tried.
    """
    fewest = dict[int, int]()
    for node, many in open_to:
        fewest[node] = min(many, fewest.get(node, many))
    if not fewest:
        return None, 0.0
    # The worth of each node on each hardness, in the passes that suit it best now.
    on_hardness = {
        one: np.einsum("kc,kc->k", found.shares[:, one[0]], found.outlook_on(one[1], found.blades[one[0]]).worth)
        for one in open_to
    }
    every = np.stack(list(on_hardness.values()))
    owners = np.array([node for node, _ in on_hardness])
    gains = dict[int, float]()
    for node, many in fewest.items():
        joint = found.weight[:, None] * found.shares[:, node] * found.likelihood(node, many)
        others = joint.sum(axis=2) @ np.where((owners == node)[:, None], 0.0, every).T
        own = [
            np.einsum("okc,kc->o", joint, found.outlook_on(count, found.blades[node]).worth)
            for one, count in open_to
            if one == node
        ]
        best = np.maximum(others.max(axis=1), np.max(own, axis=0))
        gains[node] = float(best.sum()) - worth
    tried = max(gains, key=lambda node: gains[node])
    return (tried, fewest[tried]), max(0.0, gains[tried])


def _nothing_typed(belief: HardnessBelief, force: ForceRange, passes: int) -> NamedProposal:
    """The proposal before any setting is typed: the name to look for, and the chances of a setting found so."""
    stock = belief.stock
    found = settings_posterior((NamedSetting("?"),), belief, force, (starter_force_gf(stock, belief.cut),))
    usable, at_first, clean, _ = found.outlook_of(0, passes)
    named = stock.package_setting
    look_for = f"Its package names “{named}”: type that one first." if named else LOOK_FOR[stock.stock_class]
    return NamedProposal(usable=usable, at_first=at_first, clean=clean, look_for=look_for, speaks=True)
