"""Opened rows of a site: their ground, chips aside, seed, the next step, and whether there is still time."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, timedelta
from functools import cached_property
from uuid import UUID

from ulmatic.core.decay import MONTH_DAYS
from ulmatic.core.figures import Figure, Mark, Source
from ulmatic.core.log import NEXT, Opened, Opening, Planted, Ripeness, RowState
from ulmatic.core.recipe import HUMUS_TO_PLANT
from ulmatic.core.recipe.practice import Planting
from ulmatic.core.schedule import drawn_rows, pulled_aside, put_back, settling_for
from ulmatic.core.site import SitePlot, SiteState
from ulmatic.core.survey.shapes.base import XY
from ulmatic.core.value import Value
from ulmatic.core.work import Crop, GrowingYear, Rooting, Week
from ulmatic.core.work.growing import seed_of
from ulmatic.core.work.row_work import RowStep, hours_of, next_row_step
from ulmatic.core.work.watering import water_for_week, weeks_of

WEEK_DAYS = 7
LEAST_OUTSIDE = 0.02
"""Share of typed rows that may lie outside the plot before it is said: a judgement."""


class RowFigures(Value):
    """What opened ground comes to.

    Attributes
    ----------
    area : Figure
        m², within the plot.
    length_m : float
        Of all rows together.
    aside, back : Figure
        Loose m³ pulled aside, and put back round the plants.
    growing_mm : float
        Settled depth round the plants.
    seed : Figure or None
        kg.
    opening_hours : Figure or None
        Of pulling the chips aside.
    outside : bool
        Whether a part of what was said lies outside the plot.
    rings : tuple of rings of (x, y)
        As drawn, in metres about the plot's middle.
    """

    area: Figure
    length_m: float
    aside: Figure
    back: Figure
    growing_mm: float
    seed: Figure | None
    opening_hours: Figure | None
    outside: bool
    rings: tuple[tuple[XY, ...], ...]


class OpenedRows(Value):
    """Opened ground as it stands.

    Attributes
    ----------
    after : tuple of RowState
        What may be done next; `next_state` is what is usual.
    hours : Figure or None
        Of the next step.
    """

    id: UUID
    plot_id: UUID
    plot: str
    opened: Opened
    state: RowState
    since: date
    steps: tuple[tuple[RowState, date], ...]
    crop: str | None
    crop_name: str | None
    figures: RowFigures
    after: tuple[RowState, ...]
    next_state: RowState | None
    next_on: date | None
    next_words: str
    hours: Figure | None
    ready_on: date | None
    hints: tuple[str, ...]


class Watering(Value):
    """What is watered week by week until it has rooted, the running week first."""

    plot_id: UUID
    plot: str
    words: str
    kind: Rooting
    planted_on: date
    weeks: tuple[Week, ...]


@dataclass(frozen=True)
class OpenedGround:
    """Opened ground of a site, and what was planted there.

    Attributes
    ----------
    plantable_from : mapping of plot id to date or None
        When ground that is built up can be planted into.
    """

    state: SiteState
    plantable_from: Mapping[UUID, date | None]

    @cached_property
    def year(self) -> GrowingYear:
        """The growing weather of the place."""
        state = self.state
        return GrowingYear(state.climate.normals, state.climate.place_year, state.parameters)

    @cached_property
    def open(self) -> list[tuple[SitePlot, Opening]]:
        """What is open, or has plants growing in it."""
        openings = self.state.openings
        return [
            (plot, opening)
            for plot in self.state.site.plots
            for opening in openings.get(plot.id, ())
            if opening.is_open
        ]

    def step(self, opening: Opening) -> RowStep | None:
        """Return the next step on opened ground.

        Returns
        -------
        RowStep or None
            None where nothing is left to do.
        """
        state = self.state
        crop = state.site.crops.get(opening.crop or "")
        return next_row_step(opening, state.rows_drawn(opening), crop, self.year, state.day, state.parameters)

    @cached_property
    def hours_by_day(self) -> dict[date, float]:
        """Person-hours of the next steps, by day."""
        hours: dict[date, float] = {}
        for _, opening in self.open:
            step = self.step(opening)
            if step is not None and step.hours is not None:
                hours[step.on] = hours.get(step.on, 0.0) + step.hours.value
        return hours

    @cached_property
    def opened(self) -> list[OpenedRows]:
        """Opened ground as it stands."""
        return [self._row(plot, opening) for plot, opening in self.open]

    def figures(self, plot: SitePlot, opened: Opened) -> RowFigures:
        """Return what opened ground of a plot comes to, opened already or not.

        Returns
        -------
        RowFigures
        """
        state = self.state
        drawn = drawn_rows(state.ground.outlines[plot.id], opened)
        crop, recipe = state.site.crops.get(opened.crop or ""), state.recipe(plot)
        settling = settling_for(plot.plot.use, recipe.material, state.parameters).value
        depth_mm = state.depth(plot.id).middle
        typed_m2 = opened.count * opened.length_m * opened.width_m
        return RowFigures(
            area=_drawn_area(drawn.area_m2),
            length_m=drawn.length_m,
            aside=pulled_aside(drawn.area_m2, depth_mm, settling),
            back=put_back(drawn.area_m2, depth_mm, recipe.growing_mm, settling),
            growing_mm=recipe.growing_mm,
            seed=None if crop is None else seed_of(crop, drawn, in_rows=opened.form == "rows"),
            opening_hours=hours_of(RowState.PULLED_BACK, drawn, state.parameters),
            outside=drawn.area_m2 < typed_m2 * (1 - LEAST_OUTSIDE),
            rings=drawn.rings,
        )

    def _row(self, plot: SitePlot, opening: Opening) -> OpenedRows:
        crops = self.state.site.crops
        crop, step, started = crops.get(opening.crop or ""), self.step(opening), opening.started_on
        # What grows there was perhaps chosen after the ground was opened.
        opened = opening.opened.model_copy(update={"crop": opening.crop})
        return OpenedRows(
            id=opening.id,
            plot_id=plot.id,
            plot=plot.plot.name,
            opened=opening.opened,
            state=opening.state,
            since=opening.since,
            steps=tuple((past.state, past.on) for past in opening.steps),
            crop=opening.crop,
            crop_name=None if crop is None else crop.name,
            figures=self.figures(plot, opened),
            after=NEXT[opening.state],
            next_state=None if step is None else step.state,
            next_on=None if step is None else step.on,
            next_words="" if step is None else step.words,
            hours=None if step is None else step.hours,
            ready_on=self.year.time_left(crop, started).ready if crop is not None and started is not None else None,
            hints=hints_of(opening.state, crop, crops.get(crop.marker or "") if crop else None),
        )

    @property
    def count(self) -> int:
        """How many rows are open, or have plants growing in them; a patch is one."""
        return sum(opening.opened.count for _, opening in self.open)

    def holds(self, plot: SitePlot) -> list[str]:
        """Return why a plot is not to be sown or planted yet; none where nothing speaks against it.

        Returns
        -------
        list of str
            Keys of what speaks against it.
        """
        state = self.state
        words = []
        if state.recipe(plot).builds_up:
            needed = state.parameters.of(HUMUS_TO_PLANT).value
            ripe = self.plantable_from.get(plot.id)
            if ripe is None or ripe > self.state.day:
                when = "That is not forecast within ten years." if ripe is None else f"That is about {ripe:%B %Y}."
                words.append(f"New ground: wait until the humus is {{{needed:.0f} mm}} deep. {when}")
        if state.practice(plot).planting is Planting.ONCE_DECOMPOSED:
            tests = [entry.entry for entry in state.ledger[plot.id] if isinstance(entry.entry, Ripeness)]
            if not tests or not tests[-1].plantable:
                words.append(
                    "Your practice plants in ripe chips. "
                    + ("The last ripeness test says: not yet." if tests else "Test the ripeness first, and log it.")
                )
        return words

    # Watering.

    def _rain_mm(self, week: date) -> float:
        """Return the rain of a week: as observed where it is past, else as usual in its month.

        Returns
        -------
        float
            mm.
        """
        state = self.state
        days_mm = self._seen_mm
        usual = state.climate.normals.rain_mm
        days = [week + timedelta(days=number) for number in range(WEEK_DAYS)]
        return sum(days_mm.get(day, usual[day.month - 1] / MONTH_DAYS) for day in days)

    def _mean_c(self, week: date) -> float:
        """Return the usual mean temperature of a week.

        Returns
        -------
        float
            °C.
        """
        return float(self.year.mean_c(week + timedelta(days=WEEK_DAYS // 2)))

    @cached_property
    def _seen_mm(self) -> dict[date, float]:
        return {day.day: day.rain_mm for day in self.state.site.weather if day.day <= self.state.day}

    @cached_property
    def waterings(self) -> list[Watering]:
        """What is watered week by week until it has rooted."""
        state = self.state
        waterings = []
        for plot in state.site.plots:
            for entry in state.ledger[plot.id]:
                planted = entry.entry
                if isinstance(planted, Planted) and planted.action in ("put_in", "replaced"):
                    kind: Rooting = "tree" if plot.plot.use.record.trees else "plant"
                    words = f"{planted.count} {planted.name or ('trees' if kind == 'tree' else 'plants')}"
                    waterings += self._watering(plot, kind, words, planted.count, entry.on)
        for plot, opening in self.open:
            if opening.started_on is not None:
                crop = state.site.crops.get(opening.crop or "")
                words = crop.name if crop is not None else "Rows"
                area = state.rows_drawn(opening).area_m2
                waterings += self._watering(plot, "row", words, area, opening.started_on)
        return waterings

    def _watering(self, plot: SitePlot, kind: Rooting, words: str, amount: float, planted_on: date) -> list[Watering]:
        state = self.state
        if plot.irrigated:
            return []
        weeks = tuple(
            Week(
                on=week,
                rain_mm=rain,
                mean_c=mean,
                water=water_for_week(kind, amount, rain, mean, state.parameters),
            )
            for week in weeks_of(kind, planted_on, state.day)
            for rain, mean in ((self._rain_mm(week), self._mean_c(week)),)
        )
        if not weeks:
            return []
        watering = Watering(
            plot_id=plot.id, plot=plot.plot.name, words=words, kind=kind, planted_on=planted_on, weeks=weeks
        )
        return [watering]


def _drawn_area(area_m2: float) -> Figure:
    source = Source(mark=Mark.COMPUTED, text="The area of what is drawn, within the plot.")
    return Figure(name="Opened ground", value=area_m2, unit="m2", source=source)


def hints_of(state: RowState, crop: Crop | None, marker: Crop | None) -> tuple[str, ...]:
    """Return what to mind at the next step of a crop: common practice.

    Parameters
    ----------
    state : RowState
    crop : Crop or None
    marker : Crop or None
        The quick crop that marks its rows.

    Returns
    -------
    tuple of str
    """
    if crop is None:
        return ()
    hints = []
    if state in (RowState.PULLED_BACK, RowState.LOOSENED) and crop.start == "sow":
        hints.append(f"Sow in soil, {{{crop.sown_mm:.0f} mm}} deep; never mix chips in.")
        if marker is not None:
            hints.append(f"{marker.name} among it marks the row until it is up.")
    if state is RowState.SOWN:
        if crop.cover == "board":
            hints.append("Lay a board over the row, and look under it every day until it is up.")
        if crop.cover == "sand":
            hints.append("Cover the fine seed with sand, and keep it moist.")
    if state is RowState.UP and crop.apart_mm:
        hints.append(f"Thin to {{{crop.apart_mm:.0f} mm}} before the chips go back.")
    if state is RowState.CLOSED and crop.legume:
        hints.append("Cut it and leave the roots: their nitrogen stays in the soil.")
    return tuple(hints)
