"""What spoils a piece in a lesson, in words: the twin's own, the network's symptoms, and those of layers."""

from vamper.core.ledger.diagnosis import SYMPTOMS
from vamper.core.twin.remedies import CAUSE_NAMES
from vamper.core.twin.simulate import Spoiling

_OF_LAYERS = {"layer-covered": "A layer lies under another one", "layer-off": "The layers do not lie on each other"}
SPOILING_TEXTS: dict[str, str] = SYMPTOMS | {str(one): CAUSE_NAMES[one] for one in Spoiling} | _OF_LAYERS


def spoiling_text(code: str) -> str:
    return SPOILING_TEXTS[code]
