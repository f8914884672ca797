"""What every faulty program is forked from: the libraries it stands on, loaded; nothing of the program itself."""

import sys

import hypothesis  # noqa: F401
import pytest  # noqa: F401

import vamper.api.openapi
import vamper.cli.app
import vamper.demo.workshop  # noqa: F401


def _forget_the_program() -> None:
    for name in list(sys.modules):
        if name.partition(".")[0] == "vamper":
            del sys.modules[name]


_forget_the_program()
