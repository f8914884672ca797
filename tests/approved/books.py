"""What is told of the ledger: what went wrong, what it costs, what runs come to, what photos say."""

from collections.abc import Iterator
from typing import Any

import numpy as np

from tests.core.test_compare import PPI, made, planned, ran
from vamper.core.ledger.cost import MadeCounts, Rates, costs_of
from vamper.core.ledger.cost import WorkTimes as CostedWork
from vamper.core.ledger.diagnosis import CHECKS, FACTS, SYMPTOMS, Seen, diagnose, yes_chances
from vamper.core.ledger.miss_kind import kind_of_misses
from vamper.core.ledger.recipe import recipes_of
from vamper.core.ledger.run import (
    CameOut,
    LaterCheck,
    LaterKind,
    Run,
    Spoilt,
    SpoiltPiece,
    Took,
    UsedSetting,
    outcome_of,
    symptoms_of,
)
from vamper.core.ledger.success import success_of
from vamper.core.ledger.supply import Stored, Thing, spent_in, taken_of
from vamper.core.twin.cut_out import cut_pieces
from vamper.core.twin.devices import devices_of
from vamper.core.twin.photo import Camera, on_table, photographed
from vamper.core.values.cut import Cut
from vamper.core.values.units import MM_PER_INCH
from vamper.core.vision.loose_pieces import loose_pieces
from vamper.core.vision.print_comparison import compare_print
from vamper.core.vision.rectify import rectify, rectify_by_corners

Told = Iterator[tuple[str, Any]]


def _books() -> Told:
    """What runs come to: recipes, symptoms, and what they took off the shelf."""
    soft, hard = UsedSetting(Cut.KISS, 96.0, 1, 80.0, "45"), UsedSetting(Cut.KISS, 118.0, 2, 60.0, "45")
    spoilt = (
        (),
        (SpoiltPiece(1, Spoilt.TORN), SpoiltPiece(2, Spoilt.TORN), SpoiltPiece(3, Spoilt.TORN)),
        (SpoiltPiece(0, Spoilt.PRINT_FAULT), SpoiltPiece(4, Spoilt.OFF)),
        tuple(SpoiltPiece(place, Spoilt.NOT_THROUGH) for place in range(9)),
    )
    runs = []
    for number in range(24):
        bad = spoilt[number % 4 if number > 9 else 0]
        runs.append(
            Run(
                title="Regatta stickers",
                sheet=1,
                sheets=1 + number % 2,
                pieces=9,
                came_out=CameOut.NOT_RUN if number == 7 else CameOut.SPOILED if bad else CameOut.GOOD,
                spoilt=bad,
                stock="satin-vinyl",
                stock_name="satin vinyl",
                printer="inkjet",
                cutter="mat cutter",
                settings=(hard if number % 3 else soft,),
                light="lamp",
                marks="corner",
                remedies=("tape",) if number % 2 else (),
                media="photo",
                quality="best",
                process="hand-out coat-before",
                coats=2 + number % 2,
                took=Took(1.0 + number, 3.0, 0.1, 2, 9),
                from_offcut=number % 5 == 0,
                simulated=number == 3,
                later=(LaterCheck(LaterKind.WASH, number % 4 != 1),),
            )
        )
    yield "recipes", recipes_of(list(enumerate(runs)))
    yield (
        "seen",
        [[symptoms_of(one), outcome_of(one.spoilt, one.pieces), one.good_pieces, one.sheets_spent] for one in runs],
    )
    yield "spent", [spent_in(runs, "satin-vinyl"), [taken_of(thing, runs) for thing in Thing]]
    yield "left", [[one.left, one.is_low] for one in (Stored(Thing.INK, 100.0, spent, 1.0) for spent in (50, 81, 120))]


def photos() -> Told:
    """What pictures of a small sheet say: where it lies in them, its prints, and its pieces on a table."""
    plan = made()
    sheet = planned(plan)
    runs, scan = ran(plan)
    corners = np.array([(0.0, 0.0), (scan.shape[1], 0.0), (scan.shape[1], scan.shape[0]), (0.0, scan.shape[0])])
    shown = rectify_by_corners(scan, sheet, corners)
    yield "shown", [shown.turn_deg, shown.scale(sheet, PPI)]
    picture, _ = on_table(scan, PPI / MM_PER_INCH, cut_pieces(plan, devices_of(plan), runs, 0), 3)
    loose = loose_pieces(picture, PPI, sheet)
    yield "loose", [[[one.item, one.pose, one.off_mm, one.area_share] for one in loose.pieces], len(loose.unknown)]
    _, scan = ran(plan, (2,))
    photo, _ = photographed(scan, Camera(5.0, 40.0, 184.0, uneven=0.4, warmth=0.6), 1500, 1)
    found = rectify(photo, sheet)
    compared = compare_print(photo, sheet, found)
    yield "straight", [found.marks_found, found.turn_deg, found.agrees]
    yield "printed", [compared.pieces, [one.placement for one in compared.missing], compared.colour_shift_de]


def ledger() -> Told:
    """What went wrong for every symptom, what a piece costs, and how sure a share is."""
    for symptom in sorted(SYMPTOMS):
        plain = diagnose(Seen((symptom,), ()))
        yield symptom, [(one.cause.key, one.chance) for one in plain.suspects[:6]]
    facts, checks = tuple(sorted(FACTS)[:4]), {code: n % 2 == 0 for n, code in enumerate(sorted(CHECKS)[:3])}
    yield "asked", [(one.cause.key, one.chance) for one in diagnose(Seen((min(SYMPTOMS),), facts, checks)).suspects]
    yield "yes", {check: yes_chances(check) for check in CHECKS}
    for good, bad in ((0, 0), (3, 0), (17, 3), (190, 10)):
        yield f"success {good} {bad}", success_of(good, bad)
    work = CostedWork(
        (MadeCounts(1, 6, 3000.0), MadeCounts(2, 3, 1000.0)), 2, 1.2, Took(3.0, 60.0, 0.1, 6, 9), 30.0, 0.9
    )
    rates = Rates("g", hour=12, ink_ml=0.5, laminate_m2=6, coat=0.2, blank=1.5, blade=9, margin=0.4)
    yield "costs", costs_of(work, rates)
    places = np.array([(x, y) for x in (20.0, 100.0, 190.0) for y in (20.0, 140.0, 250.0)])
    shifts = {"even": 0 * places + (0.4, -0.2), "growing": places * 0.003, "turning": places[:, ::-1] * (-0.003, 0.003)}
    for name, misses in shifts.items():
        yield f"kind {name}", kind_of_misses(places, misses)
    yield from _books()
