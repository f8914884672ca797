"""Lessons of the trainer, played by their moves."""

import json
from pathlib import Path
from typing import Annotated

import typer

from vamper.cli.app import app, bad_input_is_one_line
from vamper.cli.planning import read_input
from vamper.core.values.findings import BadInput


@app.command()
def lesson(
    key: Annotated[str | None, typer.Argument(help="Which lesson; --list names them.")] = None,
    every: Annotated[bool, typer.Option("--list", help="Name all lessons.")] = False,
    seed: Annotated[int, typer.Option(min=0, max=2**31, help="Seed of what differs from sheet to sheet.")] = 1,
    moves: Annotated[
        Path | None, typer.Option(help="Moves to make (JSON, a list of codes); - for standard input.")
    ] = None,
) -> None:
    """Practise a lesson without the screen, as in: vamper lesson torn-points --seed 3 --moves moves.json

    Prints what is to be seen and which moves there are, as JSON; with --moves also what became of them, step by step,
    whether the order was filled, and what a good hand would have done. The same for the same seed.
    """
    from vamper.core.trainer.coach import Coach
    from vamper.core.trainer.play import LessonPlay, after_move
    from vamper.formats.lesson_file import lesson_document, lesson_named, lessons_document, read_moves, replay_document
    from vamper.services.design.designer import Designer
    from vamper.services.packing.nesting_process import ProcessNester
    from vamper.services.trainer.bench import TwinBench

    with bad_input_is_one_line():
        if every:
            found: object = lessons_document()
        elif key is None:
            raise BadInput("say which lesson; `vamper lesson --list` names them", "lesson")
        else:
            play = LessonPlay(lesson_named(key), seed)
            found = lesson_document(play)
            if moves is not None:
                bench = TwinBench(play.lesson, Designer(), ProcessNester())
                for code in read_moves(read_input(moves, str(moves))):
                    play = after_move(play, code, bench)
                found = replay_document(play, Coach(play.lesson, bench).plan(seed))
    typer.echo(json.dumps(found, indent=1, ensure_ascii=False))
