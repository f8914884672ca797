"""A machine's named settings: their forces against sums by hand, the rules over random histories, and random machines
that are played until enough is known.
"""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.tried import tried
from vamper.core.cutting.belief import MISREAD, landing_chance, prior
from vamper.core.cutting.depth import bands_of, passes_factor
from vamper.core.cutting.machine_settings import NOTHING_LEFT, propose_setting
from vamper.core.cutting.setting_names import named_force_gf
from vamper.core.cutting.settings_posterior import known_harder, settings_posterior
from vamper.core.values.cut import Cut
from vamper.core.values.cutter import Cutter, ForceRange
from vamper.core.values.named_settings import NamedSetting, SettingChoice, SettingSeen, check_settings
from vamper.core.values.stock import STOCK_BY_KEY, Stock
from vamper.core.values.tried import MOST_PASSES, Outcome, Pressure

VINYL, LABEL = (STOCK_BY_KEY[key] for key in ("satin-vinyl", "matte-label"))
RANGE = ForceRange(20, 380, 4)
KISS = prior(VINYL, Cut.KISS)
EVERY = tuple(Pressure)
KISS_OUTCOMES = [Outcome.NOT_THROUGH, Outcome.CLEAN, Outcome.BACKING_MARKED, Outcome.BACKING_THROUGH]
TOO_MUCH = (Outcome.BACKING_THROUGH, Outcome.TORN)


def did(outcome: Outcome, stock: Stock = VINYL, pressure: Pressure | None = None, passes: int = 1) -> SettingSeen:
    return SettingSeen(stock, Cut.KISS, outcome, pressure, passes)


def _fits(outcome: Outcome, forces: np.ndarray, hardness: np.ndarray) -> np.ndarray:
    depths = forces[None] / hardness[:, None]
    lands = landing_chance(depths, bands_of(VINYL, Cut.KISS).of(outcome), 0.06)
    return (1 - MISREAD) * lands + MISREAD / 4


@pytest.mark.parametrize("ordered", [True, False])
def test_two_settings_against_all_pairs_of_forces(ordered: bool) -> None:
    forces = np.exp(np.linspace(math.log(20), math.log(380), 121))
    one = NamedSetting("one", gentler_than=("two",) if ordered else (), seen=(did(Outcome.CLEAN),))
    two = NamedSetting("two", seen=(did(Outcome.BACKING_MARKED),))
    shares = np.zeros((2, 121))
    for weight, hardness in zip(KISS.weight[::10], KISS.hardness[::10], strict=True):
        first = _fits(Outcome.CLEAN, forces, np.array([hardness]))[0]
        second = _fits(Outcome.BACKING_MARKED, forces, np.array([hardness]))[0]
        pairs = first[:, None] * second[None] * weight
        pairs = np.triu(pairs) if ordered else pairs
        shares += (pairs.sum(axis=1), pairs.sum(axis=0))
    shares /= shares.sum(axis=1, keepdims=True)
    # In the other order of the list the same comes out.
    for settings, order in (((one, two), (0, 1)), ((two, one), (1, 0))):
        found = settings_posterior(settings, KISS, RANGE)
        for node, place in enumerate(order):
            middle = float(np.exp(shares[place] @ np.log(forces)))
            mean = float(np.exp((found.weight @ found.shares[:, node]) @ found.ln_force))
            assert mean == pytest.approx(middle, rel=0.02)


def test_an_order_with_two_ways_against_drawn_forces() -> None:
    """Gentlest and hardest with two between them that nobody compared: near enough, and in order."""
    settings = (
        NamedSetting("a", gentler_than=("b", "c"), seen=(did(Outcome.NOT_THROUGH),)),
        NamedSetting("b", gentler_than=("d",)),
        NamedSetting("c", gentler_than=("d",), seen=(did(Outcome.CLEAN),)),
        NamedSetting("d"),
    )
    random = np.random.default_rng(3)
    drawn = np.exp(random.uniform(math.log(20), math.log(380), (400_000, 4)))
    hardness = VINYL.hardness_gf_per_um * np.exp(random.normal(0, 0.22, len(drawn)))
    a, b, c, d = drawn.T
    weight = ((a <= b) & (a <= c) & (b <= d) & (c <= d)).astype(float)
    for force, outcome in ((a, Outcome.NOT_THROUGH), (c, Outcome.CLEAN)):
        lands = landing_chance(force / hardness, bands_of(VINYL, Cut.KISS).of(outcome), 0.06)
        weight *= (1 - MISREAD) * lands + MISREAD / 4
    means = np.exp(weight @ np.log(drawn) / weight.sum())
    found = settings_posterior(settings, KISS, RANGE)
    mine = np.exp(np.einsum("k,knc,c->n", found.weight, found.shares, found.ln_force))
    assert mine == pytest.approx(means, rel=0.12)


def test_a_name_speaks_of_a_class_in_plain_words() -> None:
    thin, thick, label, vinyl = (
        named_force_gf(one) or math.nan for one in ("thin card", "Thick card", "label paper", "vinyl")
    )
    assert thin < thick
    assert label < thin
    assert vinyl == pytest.approx(0.85 * (110 + 0.15 * 120), rel=1e-6)
    assert named_force_gf("house favourite") is None
    assert named_force_gf("thick label paper") == pytest.approx(1.35 * label)


TELLS = st.lists(
    st.tuples(
        st.integers(0, 3),
        st.sampled_from([None, *EVERY]),
        st.integers(1, 3),
        st.sampled_from([*KISS_OUTCOMES, Outcome.TORN]),
    ),
    max_size=6,
)
ORDERS = st.lists(st.tuples(st.integers(0, 3), st.integers(0, 3)).filter(lambda one: one[0] < one[1]), max_size=4)
NAMES = ("thin paper", "label paper", "house favourite", "thick card")


def _settings(tells, order) -> tuple[NamedSetting, ...]:  # type: ignore[no-untyped-def]
    return tuple(
        NamedSetting(
            name,
            EVERY if place % 2 else (),
            tuple(NAMES[above] for below, above in dict.fromkeys(order) if below == place),
            seen=tuple(
                did(what, pressure=pressure if place % 2 else None, passes=passes)
                for setting, pressure, passes, what in tells
                if setting == place
            ),
        )
        for place, name in enumerate(NAMES)
    )


@tried(60)
@given(TELLS, ORDERS)
def test_the_rules_hold_whatever_was_told(tells, order) -> None:  # type: ignore[no-untyped-def]
    settings = _settings(tells, order)
    found = propose_setting(settings, KISS, RANGE, 1)
    nodes = settings_posterior(settings, KISS, RANGE).nodes
    harder = known_harder(settings, nodes)
    place_of = {(settings[one.setting].name, one.pressure): place for place, one in enumerate(nodes)}
    newest: dict[tuple[int, int], Outcome] = {}
    for place, pressure, passes, what in tells:
        node = place_of[NAMES[place], (pressure or Pressure.USUAL) if place % 2 else None]
        newest.pop((node, passes), None)
        newest[node, passes] = what
    against = {key: what for key, what in newest.items() if what in TOO_MUCH or what is Outcome.NOT_THROUGH}

    def is_wrong(node: int, passes: int) -> bool:
        return any(
            (what in TOO_MUCH and node in harder[other] and passes >= many)
            or (what is Outcome.NOT_THROUGH and other in harder[node] and passes <= many)
            for (other, many), what in against.items()
        )

    for choice in (found.choice, found.next_try):
        if choice is not None:
            assert not is_wrong(place_of[choice.name, choice.pressure], choice.passes)
    clean = {key for key, what in newest.items() if what is Outcome.CLEAN and not is_wrong(*key)}
    if found.choice is None:
        assert found.look_for == NOTHING_LEFT
        assert not clean
    elif clean:
        assert (place_of[found.choice.name, found.choice.pressure], found.choice.passes) in clean
        assert found.worked
    if not clean and found.choice is not None and list(against.values()) == [Outcome.NOT_THROUGH]:
        ((node, many),) = against
        chosen = place_of[found.choice.name, found.choice.pressure]
        middles = [settings_posterior(settings, KISS, RANGE).quantiles_gf(one, (0.5,))[0] for one in range(len(nodes))]
        above = sorted(one for one in middles if one > middles[node])
        # The same once more, one that is gentler in more passes, or the next harder one.
        assert found.choice.passes <= many + 1
        assert middles[chosen] <= (above[0] if above else middles[node]) + 1e-9


def test_through_the_backing_is_answered_by_less_and_never_by_a_harder_material() -> None:
    settings = (
        NamedSetting(
            "label paper", EVERY, ("thick card",), seen=(did(Outcome.BACKING_THROUGH, LABEL, Pressure.USUAL),)
        ),
        NamedSetting("thick card", EVERY),
    )
    found = propose_setting(settings, prior(LABEL, Cut.KISS), RANGE, 1)
    assert found.choice is not None
    assert (found.choice.name, found.choice.pressure) == ("label paper", Pressure.LESS)


def test_what_was_clean_in_two_passes_is_taken_so_again() -> None:
    settings = (NamedSetting("vinyl", EVERY, seen=(did(Outcome.CLEAN, pressure=Pressure.LESS, passes=2),)),)
    found = propose_setting(settings, KISS, RANGE, 1)
    assert found.choice is not None
    assert (found.choice.pressure, found.choice.passes, found.worked, found.done) == (Pressure.LESS, 2, True, True)
    assert found.choice.words == "“vinyl”, less pressure, 2 passes"


def test_before_anything_is_typed_it_says_what_to_look_for() -> None:
    found = propose_setting((), KISS, RANGE, 1)
    assert (found.choice, found.placed) == (None, ())
    assert "vinyl" in found.look_for
    assert "gf" not in found.look_for
    assert 0 < found.at_first < found.usable < 1


def test_usable_of_a_name_against_a_play_of_its_own() -> None:
    random, draws = np.random.default_rng(5), 40_000
    named = named_force_gf("vinyl")
    assert named is not None
    force = np.exp(random.normal(math.log(named), 0.35, draws))
    depth = (
        force
        / (VINYL.hardness_gf_per_um * np.exp(random.normal(0, 0.22, draws)))
        * np.exp(random.normal(0, 0.04, draws))
    )
    again = np.where(depth < 110, depth * passes_factor(2), depth)
    found = propose_setting((NamedSetting("vinyl"),), KISS, ForceRange(5, 1500, 1), 1)
    assert found.usable == pytest.approx(((again >= 110) & (again < 230)).mean(), abs=0.02)
    assert found.at_first == pytest.approx(((depth >= 110) & (depth < 230)).mean(), abs=0.02)


_PRESSED = {Pressure.LESS: 0.87, Pressure.USUAL: 1.0, Pressure.MORE: 1.15, None: 1.0}


class _Hidden:
    """A machine whose forces nobody knows, and one stock that is cut on it."""

    names = ("plain paper", "label paper", "thin card", "card", "vinyl", "film", "poster board", "copper", "grade 3")

    def __init__(self, random: np.random.Generator) -> None:
        self.random = random
        self.stock = (VINYL, LABEL)[int(random.integers(2))]
        self.chosen = random.choice(self.names, int(random.integers(3, 9)), replace=False).tolist()
        self.forces = {name: self._force(name) for name in self.chosen}
        self.hardness = self.stock.hardness_gf_per_um * math.exp(random.normal(0, 0.22))

    def _force(self, name: str) -> float:
        middle = named_force_gf(name)
        known = self.random.normal(math.log(middle), 0.35) if middle else 0.0
        drawn = known if middle else self.random.uniform(math.log(20), math.log(380))
        return float(np.clip(math.exp(drawn), 20, 380))

    def cut(self, choice: SettingChoice) -> Outcome:
        luck = math.exp(self.random.normal(0, 0.04))
        force = self.forces[choice.name] * _PRESSED[choice.pressure]
        depth = force * passes_factor(choice.passes) / self.hardness * luck
        bands = bands_of(self.stock, Cut.KISS)
        return next(one for one, low, high in bands.outcomes if low <= depth < high)


def test_random_machines_are_known_after_two_trials() -> None:
    random = np.random.default_rng(11)
    trials, spoiled, count = 0, 0, 60
    for _ in range(count):
        machine = _Hidden(random)
        settings = tuple(NamedSetting(name, EVERY) for name in machine.chosen)
        belief = prior(machine.stock, Cut.KISS)
        found = propose_setting(settings, belief, RANGE, 1)
        for _ in range(MOST_PASSES):
            if found.done or found.next_try is None:
                break
            one = found.next_try
            seen = did(machine.cut(one), machine.stock, one.pressure, one.passes)
            trials += 1
            settings = tuple(
                replace(other, seen=(*other.seen, seen)) if other.name == one.name else other for other in settings
            )
            found = propose_setting(settings, belief, RANGE, 1)
        assert found.choice is not None
        spoiled += machine.cut(found.choice) in TOO_MUCH
    assert trials / count <= 2.0
    assert spoiled / count <= 0.05


@pytest.mark.parametrize(
    ("settings", "words"),
    [
        ((NamedSetting("Vinyl"), NamedSetting("vinyl ")), "two settings are called"),
        ((NamedSetting("a", gentler_than=("b",)),), "which is not in the list"),
        ((NamedSetting("a", gentler_than=("b",)), NamedSetting("b", gentler_than=("a",))), "both gentler and harder"),
        ((NamedSetting("a", gentler_than=("a",)),), "both gentler and harder than itself"),
    ],
)
def test_a_list_that_contradicts_itself_is_refused_with_a_sentence(settings, words: str) -> None:  # type: ignore[no-untyped-def]
    with pytest.raises(ValueError, match=words):
        check_settings(settings)
    with pytest.raises(ValueError, match=words):
        Cutter(settings=settings)


def test_a_pressure_that_a_setting_has_not_is_refused() -> None:
    with pytest.raises(ValueError, match="cannot be set to"):
        NamedSetting("film", seen=(did(Outcome.CLEAN, pressure=Pressure.MORE),))
