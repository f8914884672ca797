"""Exactness and speed as tables: `make bench`. Figures only; nothing passes or fails here."""

import platform

from tests.bench import exactness, packing, speed
from tests.bench.table import show
from vamper.services.nesting_process import ProcessNester


def main() -> None:
    nester = ProcessNester()
    nester.warm_up()
    print(f"Python {platform.python_version()} on {platform.machine()}; right column: what was asked for")
    show("Exactness", [*exactness.outlines(), *exactness.edges(), *exactness.files(nester)])
    show("Art and edge", speed.art_and_edge())
    show("Growth with the picture, beside the smallest", speed.growth())
    show("Packing", packing.mixed(nester))


if __name__ == "__main__":
    main()
