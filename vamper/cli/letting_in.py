"""Let the home's other devices in: a passphrase is chosen once, and the server says where they find it."""

import os
import socket
import sys
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

import typer

from vamper.core.values.findings import BadInput

if TYPE_CHECKING:
    from vamper.api.lan.address import Lan
    from vamper.services.lan.passphrase import Passphrase

_PASSPHRASE = "VAMPER_PASSPHRASE"


@dataclass(frozen=True, slots=True)
class LettingIn:
    """How other devices are let in; the certificate is the maker's own."""

    new_passphrase: bool
    certificate: Path | None
    key: Path | None


def let_in(asked: LettingIn, passphrase: "Passphrase", port: int) -> "Lan":
    """Make sure of a passphrase, and tell where the server is to be found.

    Raises
    ------
    BadInput
        Without a network, without a passphrase and nobody to ask for one, or with half a certificate.
    """
    from vamper.api.lan.address import Lan
    from vamper.services.lan.visitors import Visitors

    if (asked.certificate is None) != (asked.key is None):
        raise BadInput("a certificate goes with its key; name both with --certificate and --key")
    for file in (asked.certificate, asked.key):
        if file is not None and not file.is_file():
            raise BadInput("there is no such file", str(file))
    if asked.new_passphrase or not passphrase.is_set:
        passphrase.choose(_asked_for())
    scheme = "https" if asked.certificate else "http"
    return Lan(f"{scheme}://{_own_address()}:{port}", Visitors(passphrase), asked.certificate is not None)


def _asked_for() -> str:
    given = os.environ.get(_PASSPHRASE)
    if given is not None:
        return given
    if not sys.stdin.isatty():
        raise BadInput(f"other devices need a passphrase; set {_PASSPHRASE}, or start this in a terminal")
    words: str = typer.prompt("Passphrase for other devices", hide_input=True, confirmation_prompt="The same again")
    return words


def _own_address() -> str:
    """This computer's address in its network. Nothing is sent: only the way that it would take is asked for."""
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as asking:
        try:
            # An address for documentation (RFC 5737), never anybody's.
            asking.connect(("192.0.2.1", 9))
            address: str = asking.getsockname()[0]
        except OSError:
            address = "0.0.0.0"
    if address.startswith(("0.", "127.")):
        raise BadInput("this computer is in no network; connect it first, or start without --lan")
    return address
