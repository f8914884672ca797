"""Fills an empty workshop with the club's art and jobs in different states: one shows all that is found on art, one is
cut from coloured vinyl, one by hand."""

from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from typing import Any

from vamper.core.ledger.supply import Bought, Offcut, Pack, Thing
from vamper.core.values.cut import Cut
from vamper.core.values.paper import Paper
from vamper.core.values.stock import STOCK_BY_KEY

# What prints sharp at the sizes the club's jobs ask for, and no more: a first start draws all of them.
from vamper.demo.art_files import ART
from vamper.demo.cutting import prepare_cutting
from vamper.demo.kitchen import prepare_kitchen
from vamper.demo.measured import measure
from vamper.demo.season import shipped_season
from vamper.formats.job_file import spelt_out_edge
from vamper.services.jobs.document import JobDocument, read_document
from vamper.services.shop.usual import Usual
from vamper.services.twin.practice import practice_machines
from vamper.services.workshop import Workshop

_PICTURE_MM = 36.0
_NO_ART = "0" * 64
# The job that a new workshop can look at.
# Machines that err by most of a millimetre, on vinyl harder than believed.
PRACTICE_SEED = 162
EXAMPLE = "Hull stickers, spring order"


# What the club finishes together this evening: mugs, shirts, key rings, cups.
_TONIGHT = (1, 7, 9, 11)


def _name(art: str) -> str:
    return art.rpartition(".")[0].replace("-", " ")


def _item(art: str, digest: str, number: int, width: float, quantity: int, **more: Any) -> dict[str, Any]:
    fields = {"number": number, "name": _name(art), "art": digest, "width_mm": width, "quantity": quantity, **more}
    return spelt_out_edge(fields, None)


def _jobs(
    digests: dict[str, str],
    old_printer: int = 1,
    own_stock: str = "shimmer-vinyl",
    borrowed: int = 1,
    practice: int = 1,
    kitchen: int = 1,
) -> list[JobDocument]:
    def item(art: str, number: int, width: float, quantity: int, **more: Any) -> dict[str, Any]:
        return _item(art, digests[art], number, width, quantity, **more)

    letter = {"width_mm": 215.9, "height_mm": 279.4}
    machines = {"printer_id": 1, "cutter_id": 1}
    mug = {
        "title": "Mug decal for the club supper",
        "customer": "the supper committee",
        "paper": letter,
        **machines,
        "stock": "water-slide-clear",
        "purpose": "drinkware",
        "target": "mug",
        "packing": {"max_sheets": 1},
        "finish": {"cover": {"kind": "coat", "when": "after-cut"}},
        "items": [
            item("reach-lettering.svg", 1, 85, 4, edge={"distance_mm": 0.4, "smooth_mm": 1, "join": False}),
            item("evening.png", 2, 60, 4, edge={"kind": "circle", "distance_mm": 1}),
            item("seabird-on-white.jpg", 3, 45, 2, edge={"distance_mm": 1.8}),
        ],
    }
    hull = {
        "title": EXAMPLE,
        "paper": letter,
        **machines,
        "stock": "satin-vinyl",
        "purpose": "vehicle",
        "items": [
            item("seabird.png", 1, 50, 4),
            item("lighthouse.svg", 2, 22, 4),
            item("life-buoy.png", 3, 31, 4, cut="through"),
            item("kelp.svg", 4, 36, 4),
            item("rope.png", 5, 40, 4),
            item("oyster.png", 6, 32, 4),
            item("paddles.png", 7, 37, 3),
        ],
    }
    chandlery = {
        "title": "Odds and ends for the chandlery",
        "customer": "the chandlery",
        "paper": letter,
        **machines,
        "stock": "gloss-vinyl",
        "purpose": "laptop",
        "items": [
            item("harbour-set.png", 1, 120, 1),
            item("lantern.png", 2, 48, 2),
            item("pennant.png", 3, 60, 2),
            item("bow-wave.png", 4, 50, 2, edge={"distance_mm": 0.3, "smooth_mm": 0.2}),
            item("race-number.svg", 5, 52, 2, edge={"rings": [{"width_mm": 1, "colour": "#22303A"}, {"width_mm": 2}]}),
            item("race-numbers.pdf", 6, 52, 2, prepare={"page": 2}, edge={"kind": "bare"}),
            item("oyster-for-the-printer.jpg", 7, 44, 2, prepare={"lift_de": 12}),
            item("paddles-small.png", 8, 9, 3, edge={"distance_mm": 1}),
            item("life-buoy.png", 9, 46, 2, edge={"keep_holes": [[0.5, 0.5]], "colour": "#DCE8EA"}),
            item("seabird.png", 10, 300, 1),
        ],
    }
    burgees = {
        "title": "Burgees for the jetty, in three colours",
        "paper": {"width_mm": 304.8, "height_mm": 304.8, "spent": {"width_mm": 304.8, "height_mm": 90.0}},
        **machines,
        "stock": "plain-vinyl",
        "purpose": "window",
        "items": [item("burgee.svg", 1, 110, 2)],
    }
    tags = {
        "title": "Bag tags, both sides, cut with scissors",
        "paper": letter,
        "printer_id": 1,
        "cutter_id": 3,
        "stock": "card",
        "purpose": "laptop",
        "items": [
            item("pennant.png", 1, 60, 4, cut="through", edge={"kind": "hull", "distance_mm": 4}),
            item("oyster.png", 2, 30, 4, cut="through", back_of=1),
        ],
    }
    shimmer = {
        "title": "Shimmer stickers for the evening race",
        "paper": letter,
        **machines,
        "stock": "shimmer-vinyl",
        "purpose": "vehicle",
        "room_light": "bright",
        "items": [item("bow-wave.png", 1, 60, 4), item("pennant.png", 2, 55, 4)],
    }
    pearl = {
        "title": "Pearl stickers for the regatta desk",
        "paper": letter,
        **machines,
        "stock": own_stock,
        "purpose": "laptop",
        "items": [item("pennant.png", 1, 48, 6), item("lantern.png", 2, 40, 6)],
    }
    shed = {
        "title": "Locker stickers, cut in the boat shed",
        "paper": letter,
        "printer_id": old_printer,
        "cutter_id": borrowed,
        "stock": "satin-vinyl",
        "purpose": "laptop",
        "items": [item("oyster.png", 1, 45, 8)],
    }
    newcomers = {
        "title": "Practice sheet for the newcomers",
        "paper": letter,
        "printer_id": 1,
        "cutter_id": practice,
        "stock": "satin-vinyl",
        "purpose": "laptop",
        "items": [
            item("bow-wave.png", 1, 62, 3),
            item("pennant.png", 2, 50, 4, edge={"distance_mm": 0.4, "smooth_mm": 0.5}),
            item("evening.png", 3, 52, 3, edge={"kind": "circle", "distance_mm": 1.5, "colour": "#1E3A4C"}),
            item("life-buoy.png", 4, 46, 3, cut="through"),
        ],
    }
    shirts = {
        "title": "Crew shirts, dark cloth",
        "paper": letter,
        **machines,
        "stock": "dark-transfer",
        "purpose": "cloth",
        "target": "dark-shirt",
        "finish": {
            "plate": 1,
            "cloth": {"fibre": "cotton", "dark": True, "panel_mm": 460},
            "heat": {"iron": True, "width_mm": 200, "height_mm": 110},
        },
        "items": [item("pennant.png", 1, 90, 2, edge={"distance_mm": 1.5})],
    }
    keyrings = {
        "title": "Key rings for the juniors",
        "customer": "the junior crew",
        "paper": letter,
        **machines,
        "stock": "shrink-film",
        "purpose": "planner",
        "target": "key-ring",
        "finish": {"plate": 8},
        "shrink": {"before": {"width_mm": 100, "height_mm": 25}, "after": {"width_mm": 44.1, "height_mm": 11.6}},
        "items": [
            item("oyster.png", 1, 31, 4, edge={"distance_mm": 1.4}),
            item("lantern.png", 2, 27, 4, edge={"distance_mm": 1.4}),
        ],
    }
    cups = {
        "title": "Tapered cups for the regatta",
        "paper": letter,
        **machines,
        "stock": "water-slide-white",
        "purpose": "drinkware",
        "target": "cup",
        "finish": {"cover": {"kind": "coat", "when": "after-cut"}},
        "items": [
            item(
                "bow-wave.png",
                1,
                70,
                4,
                edge={"distance_mm": 1},
                wrap={"top_mm": 84, "bottom_mm": 60, "slant_mm": 105, "up_mm": 50},
            )
        ],
    }
    jars = {
        "title": "Jar labels, from the kitchen table",
        "customer": "the jam stall",
        "paper": letter,
        "printer_id": 1,
        "cutter_id": kitchen,
        "stock": "gloss-label",
        "purpose": "planner",
        "marks": {"remedies": ["matte-tape"]},
        "items": [
            item("lantern.png", 1, 46, 6),
            item("oyster.png", 2, 40, 6),
            item("pennant.png", 3, 52, 4),
        ],
    }
    # Each for a reason: pictures that need a hand, a decal for a cup, a stock that shines, a full sheet by cut files,
    # scissors and both sides, an old sheet used up in three colours, machines to practise on, cloth, a stock whose
    # force was found by ladders, what shrinks, a cutter set by names after a printer that prints short, a cup that
    # tapers, a machine with its own program.
    jobs: tuple[dict[str, Any], ...] = (
        *(chandlery, mug, shimmer, hull, tags, burgees, newcomers, shirts, pearl, keyrings, shed, cups, jars),
    )
    return [read_document(_as_usually_cut(job)) for job in jobs]


def _as_usually_cut(job: dict[str, Any]) -> dict[str, Any]:
    """A job with its designs cut as its stock usually is, unless they say otherwise."""
    starts = STOCK_BY_KEY[job["stock"]].starts if job["stock"] in STOCK_BY_KEY else Cut.KISS
    return {**job, "items": [{"cut": starts.value, **item} for item in job["items"]]}


# Made-up prices; of one stock hardly any is left.
_PACKS = (Pack("satin-vinyl", 20, 24.0), Pack("shimmer-vinyl", 2, 6.0), Pack("water-slide-white", 10, 18.0))
_BOUGHT = (
    Bought(Thing.INK, 60.0, 21.0, "black and colours"),
    Bought(Thing.BLADE, 5, 45.0),
    Bought(Thing.LAMINATE, 3, 18.0),
)
_RATES = {"currency": "€", "hour": 12.0, "coat": 0.15}
# The rest of a sheet from the spring: its upper third is used.
_OFFCUT = Offcut(
    "satin-vinyl",
    Paper(215.9, 279.4, gone=((0.0, 0.0, 215.9, 0.0, 215.9, 96.0, 0.0, 96.0),), margin_mm=1.5),
    "Rest of the hull stickers",
)


def fill(workshop: Workshop) -> None:
    """Put the club's art and jobs into a workshop that has no jobs yet."""
    if workshop.jobs.all():
        return
    # Two at once, as many as are read at once.
    with ThreadPoolExecutor(2) as drawing:
        taken = drawing.map(lambda name: workshop.arts.take_in(name, ART[name]()), ART)
        digests = dict(zip(ART, (one.digest for one in taken), strict=True))
    workshop.usual.put(Usual(printer_id=1, cutter_id=1, asked=True))
    old_printer = measure(workshop)
    own_stock, borrowed = prepare_cutting(workshop)
    _, practice = practice_machines(workshop.shop, PRACTICE_SEED)
    jobs = _jobs(digests, old_printer, own_stock, borrowed, practice, prepare_kitchen(workshop))
    numbers = [workshop.jobs.add(job) for job in jobs]
    workshop.handing_over.record(workshop.jobs.get(numbers[2]))
    workshop.runs.add_all(shipped_season())
    for bought in (*_PACKS, *_BOUGHT):
        workshop.supplies.buy(bought)
    workshop.supplies.keep_offcut(_OFFCUT)
    workshop.supplies.change_rates(dict(_RATES))
    for number in _TONIGHT:
        workshop.tonight.add(numbers[number])


def add_example(workshop: Workshop) -> int:
    """One of the club's jobs, to look at, on the usual machines; returns its number."""
    (job,) = (job for job in _jobs(dict.fromkeys(ART, _NO_ART)) if job.title == EXAMPLE)
    names = [name for item in job.items for name in ART if _name(name) == item.name]
    arts = [workshop.arts.take_in(name, ART[name]()).digest for name in names]
    items = tuple(replace(item, art=art) for item, art in zip(job.items, arts, strict=True))
    printer, cutter = workshop.usual.machines()
    return workshop.jobs.add(replace(job, items=items, printer_id=printer, cutter_id=cutter))
