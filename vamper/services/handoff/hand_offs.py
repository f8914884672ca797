"""What is handed over: everything in one zip."""

from collections.abc import Sequence
from dataclasses import replace

from vamper.core.plan import Plan
from vamper.core.values.findings import Finding
from vamper.formats.safe_file_name import safe_file_name
from vamper.services.design.arts import Arts
from vamper.services.design.designer import ArtFile, Designer
from vamper.services.handoff.files import bundle, is_own_name


class HandOffs:
    """The hand-offs of one workshop."""

    def __init__(self, arts: Arts, designer: Designer) -> None:
        self._arts = arts
        self._designer = designer

    def bundle(self, plan: Plan, findings: Sequence[Finding]) -> bytes:
        """All files of a plan with its job file and its art; the job in it reads back anywhere."""
        arts = self.named_arts(plan)
        name_of = {art.digest: name for name, art in arts.items()}
        return bundle(
            _with_art(plan, name_of),
            findings,
            {name: art.data for name, art in arts.items()},
            lambda item: self._designer.picture_of(item, arts[item.spec.art]),
        )

    def named_arts(self, plan: Plan) -> dict[str, ArtFile]:
        """A job's art files by names that are safe to unpack: no two are the same on any file system, and none is that
        of a file that Vamper writes.
        """
        named: dict[str, ArtFile] = {}
        taken: set[str] = set()
        for digest in dict.fromkeys(item.art for item in plan.asked.items):
            art = self._arts.file(digest)
            base = safe_file_name(art.name)
            stem, dot, ending = base.rpartition(".") if "." in base else (base, "", "")
            name, number = base, 1
            while name.lower() in taken or is_own_name(name):
                number += 1
                name = f"{stem}-{number}{dot}{ending}"
            taken.add(name.lower())
            named[name] = art
        return named


def _with_art(plan: Plan, name_of: dict[str, str]) -> Plan:
    """The plan with its art by name instead of digest."""
    asked = replace(plan.asked, items=tuple(replace(item, art=name_of[item.art]) for item in plan.asked.items))
    designed = tuple(replace(item, spec=replace(item.spec, art=name_of[item.spec.art])) for item in plan.items)
    return replace(plan, asked=asked, items=designed)
