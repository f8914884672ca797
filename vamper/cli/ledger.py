"""The ledger: what went wrong with a sheet, and the runs that were logged."""

import json
from typing import Annotated

import typer

from vamper.cli.app import DEFAULT_DATA, Data, app, bad_input_is_one_line
from vamper.core.values.findings import BadInput


@app.command()
def diagnose(
    seen: Annotated[list[str] | None, typer.Option(help="What is seen; may be given several times.")] = None,
    fact: Annotated[list[str] | None, typer.Option(help="What is known; may be given several times.")] = None,
    checked: Annotated[list[str] | None, typer.Option(help="A check and its answer, as in blade-lens=yes.")] = None,
    codes: Annotated[bool, typer.Option("--codes", help="List all codes with their sentences.")] = False,
) -> None:
    """The likely causes of a spoilt sheet, as in: vamper diagnose --seen not-through --fact old-blade --checked
    blade-lens=yes

    Prints causes with their chances, the likeliest first, and the check to do next, as JSON.
    """
    from vamper.core.ledger.diagnosis import Seen
    from vamper.core.ledger.diagnosis import diagnose as ask
    from vamper.formats.diagnosis_file import codes_document, diagnosis_document

    if codes:
        typer.echo(json.dumps(codes_document(), indent=1, ensure_ascii=False))
        return
    with bad_input_is_one_line():
        found = ask(Seen(tuple(seen or ()), tuple(fact or ()), dict(_answer(one) for one in checked or ())))
    typer.echo(json.dumps(diagnosis_document(found), indent=1, ensure_ascii=False))


def _answer(text: str) -> tuple[str, bool]:
    code, sign, answer = text.partition("=")
    if not sign or answer not in ("yes", "no"):
        raise BadInput(
            f"“{text[:60]}” is not an answer; write the check's code and yes or no, as in blade-lens=yes", "checked"
        )
    return code, answer == "yes"


@app.command()
def runs(
    data: Data = DEFAULT_DATA,
    csv: Annotated[bool, typer.Option("--csv", help="As a table for a spreadsheet instead of JSON.")] = False,
) -> None:
    """All runs of a workshop, as in: vamper runs --data club.db --csv

    Prints JSON; with --csv a table in which no text is run as a formula.
    """
    import sys

    from vamper.formats.ledger_file import Ledger, write_ledger_json
    from vamper.formats.runs_file import write_runs_csv
    from vamper.services.ledger.runs import Runs
    from vamper.store.database import Sessions, open_database

    with bad_input_is_one_line():
        if not data.exists():
            raise BadInput("there is no workshop in this file; name one with --data", str(data))
        engine = open_database(data)
        try:
            dated = tuple((one.made_at, one.run) for one in Runs(Sessions(engine)).all())
        finally:
            engine.dispose()
    sys.stdout.buffer.write(write_runs_csv(dated) if csv else write_ledger_json(Ledger(dated)))
