"""What lies on a site's plots, layer by layer, and what becomes of it."""

from collections.abc import Iterator, Sequence
from datetime import date

import numpy as np
from numpy.typing import NDArray

from ulmatic.core.decay import DecayClock, LayerTable, StackLayer, day_number
from ulmatic.core.schedule.laying import Laying, ScheduledPlot

Array = NDArray[np.float64]


class Lying:
    """The layers on each plot: a row for each plot, four where it is laid by quarters.

    Parameters
    ----------
    plots : sequence of ScheduledPlot
    clocks : sequence of DecayClock
    """

    def __init__(self, plots: Sequence[ScheduledPlot], clocks: Sequence[DecayClock]) -> None:
        self.plots, self.clocks = plots, clocks
        self.first_row = np.cumsum([0, *(plot.rows for plot in plots)])
        self.cover = LayerTable(self.row_count, clocks)
        self.layers: list[list[int]] = [[] for _ in range(self.row_count)]
        for number, plot in enumerate(plots):
            for layer in plot.stack.lying:
                measured = np.nan if layer.measured_on is None else float(day_number(layer.measured_on))
                for row, weight in self.rows_of(number, layer):
                    self._put(
                        row,
                        self.kind_in(self.cover, plot, layer),
                        layer.layer.on,
                        layer.layer.loose_mm * weight,
                        measured,
                    )

    @property
    def row_count(self) -> int:
        """Rows in all."""
        return int(self.first_row[-1])

    def rows_of(self, number: int, layer: StackLayer) -> Iterator[tuple[int, float]]:
        """Yield each row of a plot that a layer lies on, with the share of its depth there.

        Yields
        ------
        (int, float)
        """
        first, rows = int(self.first_row[number]), self.plots[number].rows
        if rows == 1:
            yield first, layer.weight
        elif layer.quarter is not None:
            yield first + layer.quarter, 1.0
        else:
            yield from ((first + row, 1.0) for row in range(rows))

    @staticmethod
    def kind_in(cover: LayerTable, plot: ScheduledPlot, layer: StackLayer) -> int:
        """Return the kind of a layer in a cover.

        Returns
        -------
        int
        """
        return cover.kind(layer.layer.material, layer.layer.settling, layer.layer.age_decay_time, plot.clock)

    def row(self, number: int, quarter: int | None) -> int:
        """Return the row on which a laying of a plot falls.

        Returns
        -------
        int
        """
        return int(self.first_row[number]) + ((quarter or 0) if self.plots[number].rows > 1 else 0)

    def _put(self, row: int, kind: int, on: date, loose_mm: float, measured: float = np.nan) -> None:
        self.layers[row].append(self.cover.count)
        self.cover.lay(row, kind, day_number(on), loose_mm, measured=measured)

    def lay(self, laying: Laying) -> list[int]:
        """Let a laying lie on its plot from its day on; return the layers that lie there then.

        Returns
        -------
        list of int
        """
        plot, row = self.plots[laying.plot], self.row(laying.plot, laying.quarter)
        if not laying.dug_in:
            kind = self.cover.kind(plot.material, plot.settling, 0.0, plot.clock)
            self._put(row, kind, laying.on, laying.settled_mm / (1 - plot.settling))
        return list(self.layers[row])

    def by_plot(self, rows: Array) -> Array:
        """Return values of rows (rows, …) as means of plots (plots, …).

        Returns
        -------
        ndarray
            Of the shape (plots, …).
        """
        if rows.shape[0] == len(self.plots):
            return rows
        sizes = np.diff(self.first_row)
        return np.asarray(
            np.add.reduceat(rows, self.first_row[:-1], axis=0) / sizes.reshape(-1, *[1] * (rows.ndim - 1))
        )
