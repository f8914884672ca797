"""How easily the findings read: Flesch's formula, 206.835 − 1.015 words a sentence − 84.6 syllables a word.

`python -m tests.words.ease` prints the median over the findings’ sentences of its tree; more is easier, and
60 to 70 is plain English. Syllables are counted by their vowels, which is right to a few in a hundred; it is meant for
a comparison, not for a mark. What is put in (`{…}`) counts as a word of one syllable.
"""

import re
import sys
from statistics import median

from tests.words.sentences import sentences

_FINDINGS = re.compile(r"inspect\.py$|remedies\.toml$|dangers\.toml$")
_LEAST_WORDS = 4


def syllables(word: str) -> int:
    """How many groups of vowels a word has, a silent e at its end left out."""
    bare = re.sub(r"(?<=[^aeiouy])e$|es$|ed$", "", word.lower()) or word.lower()
    return max(1, len(re.findall(r"[aeiouy]+", bare)))


def ease(text: str) -> float:
    """Flesch's reading ease of a text of one or several sentences."""
    text = re.sub(r"\{[^}]*\}", "six", text)
    parts = [one for one in re.split(r"[.!?:;]+(?:\s|$)", text) if re.search("[A-Za-z]", one)]
    words = re.findall(r"[A-Za-z’']+|\d+", text)
    each = sum(syllables(one) if one[0].isalpha() else 1 for one in words)
    return 206.835 - 1.015 * len(words) / max(1, len(parts)) - 84.6 * each / max(1, len(words))


def of_findings() -> list[float]:
    """The ease of each text of a finding that has at least a few words."""
    said = [one for one in sentences() if _FINDINGS.search(one.file)]
    return [ease(one.text) for one in said if len(one.text.split()) >= _LEAST_WORDS]


if __name__ == "__main__":
    found = of_findings()
    sys.stdout.write(f"{len(found)} texts, median reading ease {median(found):.1f}\n")
