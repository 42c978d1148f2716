"""What falls on which day at a site: seasons, orders, deliveries, work, readings, dressings, rows, water, closures."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import cached_property
from uuid import UUID

from ulmatic.core.log import DepthFound
from ulmatic.core.nitrogen import ACT_FROM
from ulmatic.core.planning.conditions import hot_piles
from ulmatic.core.planning.nitrogen import PlotAccount
from ulmatic.core.planning.occasions import Occasion, past_occasions
from ulmatic.core.planning.opened_rows import WEEK_DAYS, OpenedGround
from ulmatic.core.planning.season_work import SeasonWork, crew_of
from ulmatic.core.schedule import Season
from ulmatic.core.site import SiteState
from ulmatic.core.supply.order import SeasonOrder
from ulmatic.core.work import CAUTIONS, Crew
from ulmatic.core.work.calendar import SPECK_H

READ_BEFORE_DAYS, READ_AGAIN_DAYS = 14, 150
"""A reading is due two weeks before a season opens, where there is none of the last five months: a judgement."""
WORK_DAYS = 366
MOST_DRESSED = 40


@dataclass(frozen=True)
class Agenda:
    """What falls on the days of a site, from today on, a year ahead.

    Attributes
    ----------
    work_of, order_of, order_by : callable
        Of a season by its number.
    account_of : callable
        The nitrogen account of a plot by where it stands in the list.
    """

    state: SiteState
    seasons: Sequence[Season]
    work_of: Callable[[int], SeasonWork]
    order_of: Callable[[int], SeasonOrder]
    order_by: Callable[[int], date]
    opened: OpenedGround
    account_of: Callable[[int], PlotAccount]

    @property
    def first(self) -> date:
        """Today."""
        return self.state.day

    @cached_property
    def last(self) -> date:
        """A year ahead."""
        return self.first + timedelta(days=WORK_DAYS)

    @cached_property
    def crew(self) -> Crew:
        """The people of the site, and the days on which nobody works."""
        return crew_of(self.state, self.first)

    @cached_property
    def names(self) -> dict[UUID, str]:
        """Names of plots."""
        return {plot.id: plot.plot.name for plot in self.state.site.plots}

    @cached_property
    def works(self) -> list[SeasonWork]:
        """The work of the seasons that open within the year."""
        return [self.work_of(index) for index, season in enumerate(self.seasons) if season.opens <= self.last]

    @cached_property
    def occasions(self) -> list[Occasion]:
        """All of it, in the order of days."""
        parts = (
            self._closures(),
            self._seasons(),
            self._orders(),
            self._deliveries(),
            self._work(),
            self._readings(),
            self._rows(),
            self._water(),
            self._piles(),
            self._dressings(),
        )
        occasions = [occasion for part in parts for occasion in part]
        return sorted(occasions, key=lambda occasion: (occasion.on, occasion.kind, occasion.key))

    def occasions_between(self, first: date, last: date) -> list[Occasion]:
        """Return what falls on a span of days, what lasts over it among it; of past days what was done and logged.

        Parameters
        ----------
        first, last : date
            Both included.

        Returns
        -------
        list of Occasion
            By day.
        """
        past: list[Occasion] = []
        if first < self.first:
            past = list(past_occasions(self.state, first, min(last, self.first - timedelta(days=1))))
        coming = [occasion for occasion in self.occasions if occasion.on <= last and occasion.until >= first]
        return [*sorted(past, key=lambda occasion: (occasion.on, occasion.key)), *coming]

    @cached_property
    def hours(self) -> dict[date, float]:
        """Person-hours by day, of all that takes some."""
        hours: dict[date, float] = {}
        for occasion in self.occasions:
            if occasion.hours is not None:
                hours[occasion.on] = hours.get(occasion.on, 0.0) + occasion.hours
        return hours

    def full(self, day: date) -> bool:
        """Say whether more is planned on a day than can be done.

        Returns
        -------
        bool
        """
        return self.hours.get(day, 0.0) > self.crew.capacity(day) + SPECK_H

    def _seasons(self) -> list[Occasion]:
        return [
            Occasion(
                key=f"season {season.key}",
                kind="season",
                on=season.opens,
                until=season.closes,
                words=f"Season for laying: {season.name}",
                season=season.key,
            )
            for season in self.seasons
            if season.closes >= self.first and season.opens <= self.last
        ]

    def _orders(self) -> list[Occasion]:
        occasions = []
        for index, season in enumerate(self.seasons[: len(self.works)]):
            volume = self.order_of(index).ordered_m3
            if volume > 0:
                on = self.order_by(index)
                words = f"Order {{{volume:.6g} m3}} for {season.name}"
                occasions.append(Occasion(key=f"order {season.key}", kind="order", on=on, until=on, words=words))
        return occasions

    def _deliveries(self) -> list[Occasion]:
        occasions = []
        for delivery in self.state.site.deliveries:
            if delivery.state == "expected" and delivery.expected_on is not None:
                on = max(self.first, delivery.expected_on)
                late = on > delivery.expected_on
                words = f"Delivery expected: {delivery.name}"
                details = (f"It was expected on {delivery.expected_on:%-d %B}.",) if late else ()
                key = f"delivery {delivery.id}"
                occasions.append(Occasion(key=key, kind="delivery", on=on, until=on, words=words, details=details))
        return occasions

    def _work(self) -> list[Occasion]:
        occasions = []
        for work in self.works:
            breaks: dict[date, list[tuple[str | None, str]]] = {}
            for broken in work.breaks:
                key = None if broken.task is None else broken.task.key
                breaks.setdefault(broken.on, []).append((key, broken.words))
            for day in work.days:
                for plot_id in dict.fromkeys(stint.task.plot_id for stint in day.stints):
                    stints = [stint for stint in day.stints if stint.task.plot_id == plot_id]
                    keys = {stint.task.key for stint in stints}
                    day_breaks = [words for key, words in breaks.get(day.on, ()) if key is None or key in keys]
                    occasions.append(
                        Occasion(
                            key=f"work {work.season.key} {day.on} {plot_id}",
                            kind="work",
                            on=day.on,
                            until=day.on,
                            words=self.names[plot_id],
                            plot_ids=(plot_id,),
                            hours=sum(stint.hours for stint in stints),
                            details=tuple(dict.fromkeys(stint.task.words for stint in stints)),
                            tasks=tuple(dict.fromkeys(stint.task.key for stint in stints)),
                            season=work.season.key,
                            breaks=tuple(dict.fromkeys(day_breaks)),
                            fixed=any(key in work.crew.fixed for key in keys),
                            crews=tuple(dict.fromkeys(stint.task.crew for stint in stints if stint.task.crew)),
                        )
                    )
        return occasions

    def _coming(self) -> Season | None:
        """Return the season that opens next, or is open.

        Returns
        -------
        Season or None
            None where no season is ahead.
        """
        return next((season for season in self.seasons if season.closes >= self.first), None)

    def _readings(self) -> list[Occasion]:
        season = self._coming()
        if season is None:
            return []
        on = max(self.first, season.opens - timedelta(days=READ_BEFORE_DAYS))
        occasions = []
        for plot in self.state.site.plots:
            ledger = self.state.ledger[plot.id]
            last = max((entry.on for entry in ledger if isinstance(entry.entry, DepthFound)), default=None)
            lies = bool(self.state.stacks[plot.id].layers)
            if lies and (last is None or (on - last).days > READ_AGAIN_DAYS):
                occasions.append(plot.id)
        if not occasions:
            return []
        words = "Read the depth of 1 plot" if len(occasions) == 1 else f"Read the depth of {len(occasions)} plots"
        details = tuple(self.names[plot_id] for plot_id in occasions)
        return [
            Occasion(
                key=f"reading {season.key}",
                kind="reading",
                on=on,
                until=on,
                words=words,
                details=details,
                plot_ids=tuple(occasions),
            )
        ]

    def _rows(self) -> list[Occasion]:
        occasions = []
        for plot, opening in self.opened.open:
            step = self.opened.step(opening)
            if step is None or step.on > self.last:
                continue
            name = opening.opened.name
            occasions.append(
                Occasion(
                    key=f"rows {opening.id} {step.state}",
                    kind="rows",
                    on=step.on,
                    until=step.on,
                    words=f"{plot.plot.name}: {step.words[:1].lower()}{step.words[1:]}{f', {name}' if name else ''}",
                    plot_ids=(plot.id,),
                    hours=None if step.hours is None else step.hours.value,
                )
            )
        return occasions

    def _water(self) -> list[Occasion]:
        weeks: dict[date, list[tuple[UUID, str]]] = {}
        monday = self.first - timedelta(days=self.first.weekday())
        for watering in self.opened.waterings:
            for week in watering.weeks:
                if week.water.value <= 0:
                    continue
                on = max(self.first, monday + timedelta(days=(week.on - monday).days // WEEK_DAYS * WEEK_DAYS))
                words = f"{watering.plot}, {watering.words}: {{{week.water.value:.3g} m3_water}}"
                weeks.setdefault(on, []).append((watering.plot_id, words))
        return [
            Occasion(
                key=f"water {on}",
                kind="water",
                on=on,
                until=on,
                words="Water what is not rooted yet",
                details=tuple(words for _, words in rows),
                plot_ids=tuple(dict.fromkeys(plot for plot, _ in rows)),
            )
            for on, rows in weeks.items()
        ]

    def _piles(self) -> list[Occasion]:
        return [
            Occasion(
                key=f"pile {name}",
                kind="pile",
                on=self.first,
                until=self.first,
                words=f"Measure the temperature in the pile at {name}",
                details=("It is fresh and high, or was hot when it was measured last.", CAUTIONS["hot_pile"].words),
            )
            for name in hot_piles(self.state)
        ]

    def _dressings(self) -> list[Occasion]:
        fed = [plot for plot in self.state.site.plots if plot.plot.use.record.bed and self.state.stacks[plot.id].layers]
        occasions = []
        for plot in fed[:MOST_DRESSED]:
            account = self.account_of(self.state.numbers[plot.id])
            worst = account.worst
            if worst is None or worst.wanting < ACT_FROM:
                continue
            on = max(self.first, date(worst.year, account.growing[0], 1))
            if on <= self.last:
                words = f"{plot.plot.name}: nitrogen dressing, {{{worst.wanting:.1f} g_m2}} wanting"
                occasions.append(
                    Occasion(
                        key=f"dressing {plot.id} {worst.year}",
                        kind="dressing",
                        on=on,
                        until=on,
                        words=words,
                        plot_ids=(plot.id,),
                        details=(CAUTIONS["water"].words,),
                    )
                )
        return occasions

    def _closures(self) -> list[Occasion]:
        return [
            Occasion(key=f"closure {closure.name} {begins}", kind="closure", on=begins, until=ends, words=closure.name)
            for closure in self.state.site.overrides.closures
            for begins, ends in closure.spans_between(self.first, self.last)
        ]
