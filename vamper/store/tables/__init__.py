"""The tables of a workshop's file. What has fields of its own is kept whole, as JSON, and read by whoever knows them;
columns beside it are there to look things up and to list them.
"""

from vamper.store.tables.art import ArtRow, CompositionRow, ComputedRow, OwnFontRow, PreviewRow
from vamper.store.tables.base import TableBase, now
from vamper.store.tables.jobs import HandOffRow, JobRow, LayoutRow, NamedLayoutRow, StepRow
from vamper.store.tables.ledger import OffcutRow, RunRow, SupplyRow
from vamper.store.tables.shop import (
    BladeRow,
    CalibrationRow,
    CutRecordRow,
    CutterRow,
    EdgeStyleRow,
    LoggedMissRow,
    MachineEventRow,
    MatRow,
    PreferenceRow,
    PrintChoiceRow,
    PrinterRow,
    StockRow,
)
from vamper.store.tables.trainer import PlayRow, PuzzleRow

__all__ = [
    "ArtRow",
    "BladeRow",
    "CalibrationRow",
    "CompositionRow",
    "ComputedRow",
    "CutRecordRow",
    "CutterRow",
    "EdgeStyleRow",
    "HandOffRow",
    "JobRow",
    "LayoutRow",
    "LoggedMissRow",
    "MachineEventRow",
    "MatRow",
    "NamedLayoutRow",
    "OffcutRow",
    "OwnFontRow",
    "PlayRow",
    "PreferenceRow",
    "PreviewRow",
    "PrintChoiceRow",
    "PrinterRow",
    "PuzzleRow",
    "RunRow",
    "StepRow",
    "StockRow",
    "SupplyRow",
    "TableBase",
    "now",
]
