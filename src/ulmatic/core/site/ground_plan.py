"""The plan of a site's ground: where plots and landmarks lie, and how chips get from one to the other."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from uuid import UUID

from ulmatic.core.site.site import Site
from ulmatic.core.stock import holds
from ulmatic.core.survey import Access, Outline, PilePlace, Route, Tip, Way, access, arrange, outline
from ulmatic.core.survey.access import routes
from ulmatic.core.survey.place import Place
from ulmatic.core.survey.shapes.base import XY


@dataclass(frozen=True)
class GroundPlan:
    """A site's ground as it is drawn."""

    site: Site

    @cached_property
    def outlines(self) -> dict[UUID, Outline]:
        """What is drawn of each plot."""
        return {plot.id: outline(plot.plot.shape, plot.plot.cut_outs) for plot in self.site.plots}

    @cached_property
    def places(self) -> dict[UUID, Place]:
        """Where each plot is drawn."""
        fixed = {plot.id: plot.place for plot in self.site.plots if plot.place is not None}
        return arrange(self.outlines, fixed)

    @cached_property
    def middles(self) -> dict[UUID, XY]:
        """The middle of each plot that was put where it lies."""
        return {
            plot.id: self.outlines[plot.id].middle_at(plot.place) for plot in self.site.plots if plot.place is not None
        }

    @cached_property
    def spots(self) -> dict[UUID, XY]:
        """The middle of each tip and pile place."""
        return {
            landmark.id: (landmark.landmark.place.x_m, landmark.landmark.place.y_m)
            for landmark in self.site.landmarks
            if isinstance(landmark.landmark, Tip | PilePlace)
        }

    @property
    def tips(self) -> dict[UUID, Tip]:
        """The tips."""
        return {
            landmark.id: landmark.landmark for landmark in self.site.landmarks if isinstance(landmark.landmark, Tip)
        }

    @property
    def ways(self) -> list[Way]:
        """The ways drawn on the plan."""
        return [landmark.landmark for landmark in self.site.landmarks if isinstance(landmark.landmark, Way)]

    @cached_property
    def pile_place(self) -> str | None:
        """The name of the pile place with the most room, else of the largest tip."""
        spots = [(landmark.name, landmark.landmark) for landmark in self.site.landmarks]
        places = [(name, spot) for name, spot in spots if isinstance(spot, PilePlace)]
        tips = [(name, spot) for name, spot in spots if isinstance(spot, Tip)]
        room = {name: holds(spot.length_m, spot.width_m) for name, spot in places or tips}
        return max(room, key=lambda name: room[name], default=None)

    def routes_from(self, spots: Mapping[UUID, XY]) -> dict[UUID, Route[UUID]]:
        """Return the shortest walk from any of some spots to each plot that was put where it lies.

        Returns
        -------
        dict of UUID to Route
            By plot.
        """
        return routes(spots, self.ways, self.middles)

    @cached_property
    def access(self) -> dict[UUID, Access]:
        """How chips get to each plot from the nearest tip."""
        walks = self.routes_from({key: spot for key, spot in self.spots.items() if key in self.tips})
        names = {landmark.id: landmark.name for landmark in self.site.landmarks}
        return {
            plot.id: access(plot.plot.site_conditions, walks.get(plot.id), names.__getitem__)
            for plot in self.site.plots
        }
