"""What is believed of the force behind each named setting, together with the hardness of the stock that is to be cut.

Each setting and pressure is a node with an unknown ln force: normal round what its name speaks of, else even over what
the machine is assumed to span. Less and more lie a share below and above usual; an order that was told binds. What a
setting did on the stock that is to be cut binds its force and the stock's hardness, so everything is worked out for
each hardness of the belief, thinned out; what it did on another stock is a reading over that stock's own hardness.

Nodes and what ties two of them are a graph, through which messages are passed: exact where no two ways lead from one
node to another, as in a list that was put in order, and close to it elsewhere. Source: craft/program.md, "Named
settings".
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from itertools import pairwise

import numpy as np

from vamper.core.cutting.belief import MISREAD, SEEN_SIGMA, HardnessBelief, landing_chance, prior
from vamper.core.cutting.depth import EFFORT, bands_of, passes_factor
from vamper.core.cutting.outlook import Floats, Outlook, outlook
from vamper.core.cutting.setting_names import NAME_SIGMA, named_force_gf
from vamper.core.values.blade import Blade, sharpness_of
from vamper.core.values.cutter import ForceRange
from vamper.core.values.named_settings import NamedSetting, SettingSeen, harder_settings
from vamper.core.values.tried import Pressure

_CELLS = 121
_HARDNESSES = 41
# How far less and more lie from usual, ln: the middle and its spread.
_NOTCH, _NOTCH_SIGMA = 0.14, 0.06
_TINY, _HARDLY = 1e-300, 1e-100
# Odd, so that one of them is the middle one.
_PRESSES = 41
# Rounds of messages where two ways lead from one node to another.
_ROUNDS = 4
_RANK = {None: 1, Pressure.LESS: 0, Pressure.USUAL: 1, Pressure.MORE: 2}


@dataclass(frozen=True, slots=True)
class SettingNode:
    """One setting (its place in the list) at one of its pressures."""

    setting: int
    pressure: Pressure | None


@dataclass(frozen=True)
class SettingsPosterior:
    """The joint posterior of a stock's hardness and the forces of named settings.

    Parameters
    ----------
    nodes : tuple of SettingNode
        Each setting at each of its pressures.
    ln_force : Floats
        The scale (C,) of ln gf.
    hardness, weight : Floats
        Hardnesses (K,) of the stock in gf/µm, and how much is believed of each once the settings have had their say.
    shares : Floats
        The distribution of each node over the scale at each hardness, shape (K, N, C).
    belief, blades : HardnessBelief, tuple of Blade
        What was believed of the stock before, and the blade that each node cuts with.
    """

    nodes: tuple[SettingNode, ...]
    ln_force: Floats
    hardness: Floats
    weight: Floats
    shares: Floats
    belief: HardnessBelief
    blades: tuple[Blade, ...]
    _outlooks: dict[tuple[int, Blade], Outlook] = field(default_factory=dict, repr=False)
    _expected: dict[tuple[int, Blade], Floats] = field(default_factory=dict, repr=False)

    def quantiles_gf(self, node: int, shares: Sequence[float]) -> list[float]:
        """Forces (gf) of a node that are not exceeded with some chances."""
        found: list[float] = np.exp(np.interp(shares, self._middles[node], self.ln_force)).tolist()
        return found

    @cached_property
    def _middles(self) -> Floats:
        """The chance that each node's force lies below the middle of each cell of the scale, shape (N, C)."""
        whole = np.tensordot(self.weight, self.shares, 1)
        middles: Floats = np.cumsum(whole, axis=1) - whole / 2
        return middles

    def outlook_on(self, passes: int, blade: Blade) -> Outlook:
        """The outlook of every force on every hardness, each of shape (K, C)."""
        key = (passes, blade)
        if key not in self._outlooks:
            factor = _factor(passes, self.belief.sharpness, blade)
            depths = np.exp(self.ln_force)[None] * factor / self.hardness[:, None]
            self._outlooks[key] = outlook(depths, self.belief.bands, passes)
        return self._outlooks[key]

    def outlook_of(self, node: int, passes: int) -> tuple[float, float, float, float]:
        """Of a node in so many passes: the chance of a usable sheet with a look, at the first go, of a clean cut, and
        the worth of the outcome.
        """
        key = (passes, self.blades[node])
        if key not in self._expected:
            found = self.outlook_on(*key)
            each = np.stack((found.usable, found.at_first, found.clean, found.worth), axis=2)
            # All nodes at once: whoever asks for one compares it with the others.
            self._expected[key] = self.weight @ np.matmul(self.shares, each).swapaxes(0, 1)
        usable, at_first, clean, worth = self._expected[key][node].tolist()
        return usable, at_first, clean, worth

    def press_um(self, node: int, count: int = _PRESSES) -> tuple[float, ...]:
        """So many equally likely values of a node's force over the stock's hardness, µm."""
        ratio = (np.exp(self.ln_force)[None] / self.hardness[:, None]).ravel()
        joint = (self.weight[:, None] * self.shares[:, node]).ravel()
        order = np.argsort(ratio)
        shares = np.cumsum(joint[order]) - joint[order] / 2
        return tuple(np.interp((np.arange(count) + 0.5) / count, shares, ratio[order]).tolist())

    def likelihood(self, node: int, passes: int) -> Floats:
        """How likely each outcome of a drop is, shape (outcomes, K, C)."""
        belief = self.belief
        factor = _factor(passes, belief.sharpness, self.blades[node])
        depths = np.exp(self.ln_force)[None] * factor / self.hardness[:, None]
        bands = belief.bands.outcomes
        return np.stack(
            [
                (1 - MISREAD) * landing_chance(depths, (low, high), SEEN_SIGMA) + MISREAD / len(bands)
                for _, low, high in bands
            ]
        )


def settings_posterior(
    settings: Sequence[NamedSetting],
    belief: HardnessBelief,
    force: ForceRange,
    named_gf: Sequence[float | None] | None = None,
) -> SettingsPosterior:
    """The joint posterior of settings (at least one) for a stock.

    Parameters
    ----------
    belief : HardnessBelief
        The stock that is to be cut, with the blade that is in the machine.
    force : ForceRange
        What the machine is assumed to span, gf.
    named_gf : sequence, optional
        The force that each speaks of, where that is not left to its name.
    """
    names = [named_force_gf(one.name) for one in settings] if named_gf is None else named_gf
    ln = np.linspace(np.log(force.min), np.log(force.max), _CELLS)
    hardness: Floats = belief.quantile((np.arange(_HARDNESSES) + 0.5) / _HARDNESSES)
    nodes = tuple(SettingNode(place, one) for place, setting in enumerate(settings) for one in _pressures(setting))
    alone = np.stack(
        [_alone(settings[node.setting], node, names[node.setting], belief, ln, hardness) for node in nodes]
    )
    shares, ln_evidence = _passed(alone, list(_ties(settings, nodes, ln)))
    weight = np.exp(ln_evidence - ln_evidence.max())
    blades = tuple(settings[node.setting].blade or belief.blade for node in nodes)
    return SettingsPosterior(nodes, ln, hardness, weight / weight.sum(), shares.transpose(1, 0, 2), belief, blades)


def known_harder(settings: Sequence[NamedSetting], nodes: Sequence[SettingNode]) -> list[set[int]]:
    """The nodes that are known to press at least as hard as each, itself among them: by an order that was told, at as
    much pressure or more.
    """
    above = harder_settings(settings)
    return [
        {
            place
            for place, other in enumerate(nodes)
            if (other.setting == one.setting or other.setting in above[one.setting])
            and _RANK[other.pressure] >= _RANK[one.pressure]
        }
        for one in nodes
    ]


def _pressures(setting: NamedSetting) -> tuple[Pressure | None, ...]:
    """The nodes of a setting; that of usual pressure is always there, since the others lie about it."""
    if setting.choices == (None,):
        return (None,)
    return tuple(one for one in Pressure if one in setting.pressures or one is Pressure.USUAL)


def _factor(passes: int, sharpness: float, blade: Blade) -> float:
    return passes_factor(passes) * sharpness / EFFORT[blade]


def _alone(
    setting: NamedSetting,
    node: SettingNode,
    named: float | None,
    belief: HardnessBelief,
    ln: Floats,
    hardness: Floats,
) -> Floats:
    """The likelihood of each force of a node by itself, shape (K, C): from its name, and from its outcomes."""
    found = np.ones((len(hardness), len(ln)))
    if named is not None and _RANK[node.pressure] == 1:
        at = np.clip(np.log(named), ln[0], ln[-1])
        found = found * np.exp(-(((ln - at) / NAME_SIGMA) ** 2) / 2)
    mine = [one for one in setting.seen if _RANK[one.pressure] == _RANK[node.pressure]]
    for key in dict.fromkeys(one.stock.key for one in mine):
        there = [one for one in mine if one.stock.key == key]
        if key == belief.stock.key:
            found = found * _readings(there, ln, hardness)
        else:
            other = prior(there[0].stock, there[0].cut)
            others: Floats = other.quantile((np.arange(_HARDNESSES) + 0.5) / _HARDNESSES)
            found = found * _readings(there, ln, others).mean(axis=0)
    return found


def _readings(seen: Sequence[SettingSeen], ln: Floats, hardness: Floats) -> Floats:
    """How likely what was seen on one stock is, shape (hardness, force); each its own reading."""
    found = np.ones((len(hardness), len(ln)))
    for one in seen:
        bands = bands_of(one.stock, one.cut)
        outcomes = [outcome for outcome, _, _ in bands.outcomes]
        if one.outcome not in outcomes:
            continue
        depths = np.exp(ln)[None] * _factor(one.passes, sharpness_of(one.metres), one.blade) / hardness[:, None]
        lands = landing_chance(depths, bands.of(one.outcome), SEEN_SIGMA)
        found *= (1 - MISREAD) * lands + MISREAD / len(outcomes)
    return found


_Tie = tuple[int, int, Floats]
"""Two nodes, and how well each pair of their forces goes together, shape (C, C)."""


def _ties(settings: Sequence[NamedSetting], nodes: Sequence[SettingNode], ln: Floats) -> Iterator[_Tie]:
    """What binds two nodes: pressures of one setting, and an order that was told; not what follows from the rest."""
    away = ln[None, :] - ln[:, None]
    notch = np.exp(-(((away - _NOTCH) / _NOTCH_SIGMA) ** 2) / 2) * (away >= 0)
    # Products of what can hardly be are numbers that a processor takes ten times as long for.
    notch[notch < _HARDLY] = 0.0
    in_order = (away >= 0).astype(float)
    usual = {node.setting: place for place, node in enumerate(nodes) if _RANK[node.pressure] == 1}
    for (one, node), (other, after) in pairwise(enumerate(nodes)):
        if node.setting == after.setting:
            yield one, other, notch
    above = harder_settings(settings)
    for place, harder in enumerate(above):
        for other in harder - set().union(*(above[one] for one in harder)):
            yield usual[place], usual[other], in_order


def _passed(alone: Floats, ties: Sequence[_Tie]) -> tuple[Floats, Floats]:
    """Each node's distribution once all messages are passed, shape (N, K, C), and ln of how likely all of it is on each
    hardness, but for a constant.
    """
    alone = alone / np.maximum(alone.max(axis=(1, 2), keepdims=True), _TINY)
    count, every, cells = alone.shape
    messages: dict[tuple[int, int], Floats] = {}
    near: list[list[tuple[int, Floats]]] = [[] for _ in range(count)]
    for one, other, fit in ties:
        near[one].append((other, fit))
        near[other].append((one, fit.T))
        messages[one, other] = messages[other, one] = np.ones((every, cells)) / cells

    def towards(one: int, other: int | None) -> Floats:
        """The likelihood at node `one` from itself and all its neighbours but `other`, shape (K, C)."""
        found: Floats = alone[one]
        for third, _ in near[one]:
            if third != other:
                found = found * messages[third, one]
        return found

    order = _from_the_roots(near)
    for _ in range(1 if _is_forest(near, len(ties)) else _ROUNDS):
        for nodes in (order[::-1], order):
            for one in nodes:
                for other, fit in near[one]:
                    sent = towards(one, other) @ fit
                    messages[one, other] = sent / np.maximum(sent.sum(axis=1, keepdims=True), _TINY)
    found = np.stack([towards(one, None) for one in range(count)])
    totals = np.maximum(found.sum(axis=2), _TINY)
    # Bethe's sum, which is exact where the graph is a forest.
    own = np.array([1.0 - len(one) for one in near])
    ln: Floats = own @ np.log(totals)
    for one, other, fit in ties:
        ln = ln + np.log(np.maximum(((towards(one, other) @ fit) * towards(other, one)).sum(axis=1), _TINY))
    shares: Floats = found / totals[..., None]
    return shares, ln


def _from_the_roots(near: Sequence[Sequence[tuple[int, Floats]]]) -> list[int]:
    """All nodes, each after the node that it hangs from."""
    order, seen = list[int](), set[int]()
    for root in range(len(near)):
        waiting = [root]
        while waiting:
            one = waiting.pop()
            if one not in seen:
                seen.add(one)
                order.append(one)
                waiting += [other for other, _ in near[one]]
    return order


def _is_forest(near: Sequence[Sequence[tuple[int, Floats]]], ties: int) -> bool:
    """Whether no two ways lead from one node to another."""
    groups, seen = 0, set[int]()
    for root in range(len(near)):
        groups += root not in seen
        waiting = [root]
        while waiting:
            one = waiting.pop()
            if one not in seen:
                seen.add(one)
                waiting += [other for other, _ in near[one]]
    return ties == len(near) - groups
