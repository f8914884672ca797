"""The cut plan as HP-GL."""

from vamper.core.plan import Plan, cut_as_sent, timed_runs
from vamper.core.values.job import Job
from vamper.formats.out.cut_hpgl import PenLine, write_hpgl
from vamper.formats.out.sheet_file import Printed, SheetFile, leads_by_files


def _write(plan: Plan, sheet: int, _printed: Printed) -> bytes:
    lines = (
        PenLine(one.run.loop.cut, one.speed_mm_s, plan.settings[one.run.loop.cut].force_gf, one.run.points)
        for one in timed_runs(plan, cut_as_sent(plan, sheet))
    )
    return write_hpgl(plan.job.paper, lines)


def _is_for(job: Job) -> bool:
    return job.cutter.is_machine and leads_by_files(job)


def _on_request(job: Job) -> bool:
    return job.cutter.is_machine


KIND = SheetFile(
    key="cut_hpgl",
    place=5,
    ending="cut.hpgl",
    media_type="application/vnd.hp-hpgl",
    words="cut file (HP-GL)",
    write=_write,
    is_for=_is_for,
    on_request=_on_request,
    missing="no machine cuts this job, so there is no file of its movements; take the cut file (SVG)",
)
