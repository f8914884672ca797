"""Where other devices in the home find this server, if they may."""

from dataclasses import dataclass

from vamper.services.lan.visitors import Visitors


@dataclass(frozen=True, slots=True)
class Lan:
    """The server's address in the home's network, and who came in; `encrypted` is whether it has a certificate."""

    address: str
    visitors: Visitors
    encrypted: bool
