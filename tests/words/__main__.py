"""`python -m tests.words [place]`: every sentence of the interface, by the station that says it."""

import sys
from itertools import groupby

from tests.words.sentences import sentences

if __name__ == "__main__":
    wanted = sys.argv[1] if len(sys.argv) > 1 else ""
    for (place, file), group in groupby(sentences(), key=lambda said: (said.place, said.file)):
        if place.startswith(wanted):
            sys.stdout.write(f"\n# {place}: {file}\n")
            sys.stdout.writelines(f"{said.line}\t{said.text}\n" for said in group)
