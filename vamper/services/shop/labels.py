"""What the labels of this workshop's products say, kept with the stock they are for."""

from collections.abc import Mapping

from vamper.core.finishing.labels import check_figures
from vamper.core.values.finish import LabelFigure
from vamper.core.values.stock import StockClass
from vamper.store.database import Sessions
from vamper.store.remembered import Remembered
from vamper.store.tables import PreferenceRow

_KEY = "finish labels"


class Labels:
    """The figures of one workshop, by stock."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions
        self._kept: Remembered[None, dict[str, dict[str, float]]] = sessions.remembered(PreferenceRow)

    def of(self, stock: str) -> dict[str, float]:
        return dict(self._kept.get(None, self._read).get(stock, {}))

    def _read(self) -> dict[str, dict[str, float]]:
        with self._sessions() as session:
            row = session.get(PreferenceRow, _KEY)
            return {} if row is None else dict(row.value)

    def figures(self, stock: str) -> tuple[LabelFigure, ...]:
        """The same as a job holds them."""
        return tuple(LabelFigure(key, value) for key, value in sorted(self.of(stock).items()))

    def change(self, stock: str, kind: StockClass, figures: Mapping[str, float | None]) -> dict[str, float]:
        """Keep some figures of a stock of a class; None forgets a figure.

        Raises
        ------
        BadInput
            For a figure that no label has, or a value that no label of such a product can say.
        """
        check_figures(kind, figures)
        with self._sessions.begin() as session:
            row = session.get(PreferenceRow, _KEY)
            kept = {} if row is None else dict(row.value)
            mine = dict(kept.get(stock, {})) | dict(figures)
            kept[stock] = {key: value for key, value in mine.items() if value is not None}
            session.merge(PreferenceRow(key=_KEY, value=kept))
            return dict(kept[stock])
