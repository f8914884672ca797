"""The printer, each with the live area it leaves."""

from dataclasses import replace

from vamper.services.brief.phrase import BriefFacts, Choice, ChoiceContext, PhraseKind, room


def say(told: BriefFacts) -> tuple[str, str]:
    if not told.job.stock.printable:
        return ", not printed", ""
    return ", printed on ", told.machine("printer", told.printer)


def choices(asked: ChoiceContext) -> list[Choice]:
    return [
        Choice(
            kept.name,
            f"{kept.value.kind}, {room(replace(asked.job, printer=kept.value))}",
            {"printer_id": key},
            key == asked.document.printer_id,
        )
        for key, kept in asked.shop.printers.all().items()
    ]


KIND = PhraseKind("printer", 6, say, choices)
