"""Art files cut short and changed at random: each must be read, or refused with a sentence, soon and in little memory.

Run as a script with a number of cases it works them off in this process and prints what it saw as JSON; a hang or a
crash of the process itself is then seen by whoever started it.
"""

import io
import json
import random
import subprocess
import sys
import time
from dataclasses import asdict, dataclass
from pathlib import Path

import numpy as np
from PIL import Image
from reportlab.pdfgen.canvas import Canvas

from tests.bench.table import peak_mb
from tests.conftest import disc_alpha, picture_of, png_of
from vamper.core.values.art import SizeSpec
from vamper.core.values.findings import BadInput
from vamper.demo import drawings
from vamper.services.design.designer import ArtFile, Designer

ROOT = Path(__file__).parents[2]
LONGEST_S, MOST_MB = 5.0, 1024.0


@dataclass
class Seen:
    """What came of some cases: read, refused with a sentence, or anything else (`wrong`); the slowest by what it worked
    itself, s.
    """

    read: int = 0
    refused: int = 0
    wrong: int = 0
    first_wrong: str = ""
    slowest_s: float = 0.0
    peak_mb: float = 0.0


def _encoded(kind: str) -> bytes:
    out = io.BytesIO()
    Image.fromarray(picture_of(disc_alpha(120, 50, (60, 60))).rgba).convert("RGB" if kind == "JPEG" else "RGBA").save(
        out, format=kind
    )
    return out.getvalue()


def _pdf() -> bytes:
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(200, 200), invariant=1)
    canvas.circle(100, 100, 60, fill=1)
    canvas.drawString(20, 20, "Gannet Reach")
    canvas.save()
    return out.getvalue()


def seeds() -> dict[str, bytes]:
    """One good file of each format."""
    return {
        "a.png": png_of(picture_of(disc_alpha(120, 50, (60, 60)))),
        "a.jpg": _encoded("JPEG"),
        "a.webp": _encoded("WEBP"),
        "a.svg": drawings.svg(drawings.lettering() + drawings.race_number(7)),
        "a.pdf": _pdf(),
    }


def mutated(data: bytes, chance: random.Random) -> bytes:
    """A file cut short, with bytes changed, a piece repeated or taken out."""
    kind = chance.randrange(4)
    at = chance.randrange(len(data))
    if kind == 0:
        return data[: max(1, at)]
    changed = bytearray(data)
    if kind == 1:
        for _ in range(chance.choice((1, 3, 20))):
            changed[chance.randrange(len(changed))] = chance.randrange(256)
    elif kind == 2:
        changed[at:at] = changed[at : at + chance.randrange(1, 400)]
    else:
        del changed[at : at + chance.randrange(1, 60)]
    return bytes(changed)


def work_off(cases: int, seed: int = 1) -> Seen:
    """Take in `cases` broken files as an upload would."""
    chance, seen, files = random.Random(seed), Seen(), list(seeds().items())
    for number in range(cases):
        name, good = files[number % len(files)]
        data = mutated(good, chance)
        started = time.process_time()
        try:
            Designer().outline(ArtFile.of(name, data), SizeSpec(longest_mm=60))
            seen.read += 1
        except BadInput as bad:
            seen.refused += 1
            if len(bad.sentence) < 10:
                seen.wrong, seen.first_wrong = seen.wrong + 1, f"{name}: no sentence: {bad.sentence}"
        except BaseException as error:
            seen.wrong += 1
            seen.first_wrong = seen.first_wrong or f"{name}, case {number}: {type(error).__name__}: {error}"
        seen.slowest_s = max(seen.slowest_s, time.process_time() - started)
    seen.peak_mb = peak_mb("self")
    return seen


def in_a_process(cases: int, seed: int = 1) -> Seen:
    """The same in a process of its own."""
    command = [sys.executable, "-m", "tests.bench.fuzz", str(cases), str(seed)]
    done = subprocess.run(
        command, capture_output=True, text=True, cwd=ROOT, timeout=60 + cases * LONGEST_S, check=False
    )
    if done.returncode:
        return Seen(wrong=cases, first_wrong=f"the process ended with {done.returncode}: {done.stderr[-300:]}")
    return Seen(**json.loads(done.stdout))


if __name__ == "__main__":
    np.seterr(all="ignore")
    print(json.dumps(asdict(work_off(int(sys.argv[1]), int(sys.argv[2])))))
