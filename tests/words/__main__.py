"""`python -m tests.words [place]`: every sentence of the interface, by the station that says it."""

import sys
from itertools import groupby

from tests.words.sentences import sentences

if __name__ == "__main__":
    wanted = sys.argv[1] if len(sys.argv) > 1 else ""
    for place, group in groupby(sentences(), key=lambda said: said.place):
        if place.startswith(wanted):
            print(f"\n# {place}")
            for said in group:
                print(f"{said.file}:{said.line}\t{said.text}")
