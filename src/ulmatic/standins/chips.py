"""A simulated chip service: invented tree crews report loads, some of which change or fall through.

It stands in for a service of that kind, says `"simulated": true` in every answer, and keeps what it was told in memory.
What it offers follows from its seed and the day alone, so that the same day offers the same loads.

Protocol (JSON over HTTP): ``GET /chips/v1/offers`` lists offers; ``POST /chips/v1/offers/{id}/acceptance`` with the
``revision`` seen takes one (201), or answers 409 with the offer as it stands; sent again with the same
``Idempotency-Key`` it answers the same. ``POST /chips/v1/offers/{id}/refusal`` says that it is not wanted.
"""

import random
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import UTC, date, datetime, timedelta
from typing import Annotated, Any

from fastapi import FastAPI, Header
from fastapi.responses import JSONResponse
from pydantic import BaseModel

from ulmatic.platform.clock import MACHINE

CREWS = ("Fernley Tree Care", "Ashgate Climbers", "Two Saws", "Bramling Line Clearance", "Parish Green Crew")
SPECIES = ("lime", "maple", "ash", "hornbeam", "spruce", "pine", "cherry", "willow", "walnut", "birch")
DAYS_BACK = 2
"""Offers stay open for one to four days; older ones are gone."""


class OfferAcceptance(BaseModel):
    """The revision of the offer that was seen."""

    revision: int


@dataclass
class Offer:
    """A load as it is reported, what will happen to it, and what did."""

    id: str
    crew: str
    species: list[str]
    likely_m3: float
    distance_km: float
    fee: float
    posted: datetime
    expires: datetime
    ready_on: date
    changes_at: datetime | None
    withdrawn_at: datetime | None
    taken_with: set[str] = field(default_factory=set)

    def status_at(self, moment: datetime) -> dict[str, Any]:
        """Return how it stands."""
        changed = self.changes_at is not None and moment >= self.changes_at
        likely = round(self.likely_m3 * (0.7 if changed else 1.0), 1)
        state = "taken" if self.taken_with else "open"
        if self.withdrawn_at is not None and moment >= self.withdrawn_at:
            state = "withdrawn"
        return {
            "id": self.id,
            "revision": 2 if changed else 1,
            "crew": self.crew,
            "species": self.species,
            "least_m3": round(likely * 0.7, 1),
            "likely_m3": likely,
            "most_m3": round(likely * 1.25, 1),
            "distance_km": self.distance_km,
            "fee": self.fee,
            "state": state,
            "ready_on": self.ready_on.isoformat(),
            "expires_at": self.expires.isoformat(),
        }


def offers_of(day: date, seed: int) -> list[Offer]:
    """Return what is reported on a day: one to three loads, at hours of that day (UTC)."""
    dice = random.Random(f"{seed} {day.isoformat()}")  # noqa: S311 - invented data, no secret
    offers = []
    for number in range(dice.choice((1, 2, 2, 3))):
        posted = datetime(day.year, day.month, day.day, tzinfo=UTC) + timedelta(minutes=dice.randrange(0, 9 * 60))
        fate = dice.random()
        ends_at = posted + timedelta(hours=dice.uniform(3, 30))
        offers.append(
            Offer(
                id=f"{day:%y%m%d}-{number + 1}",
                crew=dice.choice(CREWS),
                species=dice.sample(SPECIES, dice.choice((1, 2, 3))),
                likely_m3=dice.choice((4.0, 6.0, 8.0, 10.0, 12.0)),
                distance_km=round(dice.uniform(1, 25), 1),
                fee=dice.choice((0.0, 0.0, 0.0, 20.0, 35.0)),
                posted=posted,
                expires=posted + timedelta(hours=dice.uniform(30, 90)),
                ready_on=day + timedelta(days=dice.choice((1, 2, 3, 5))),
                changes_at=ends_at if fate < 0.25 else None,
                withdrawn_at=ends_at if fate > 0.8 else None,
            )
        )
    return offers


class ChipStandIn:
    """The offers of the last days, and what was answered to them.

    Parameters
    ----------
    seed : int
    clock : callable
        The instant it is.
    trouble : float
        Share of requests that it drops, to show that the application bears it.
    """

    def __init__(self, seed: int, clock: Callable[[], datetime], trouble: float = 0.0) -> None:
        self.seed, self.clock, self.trouble = seed, clock, trouble
        self.days: dict[date, list[Offer]] = {}
        self.answered: dict[str, tuple[int, dict[str, Any]]] = {}
        self._dice = random.Random(seed)  # noqa: S311

    def fails(self) -> bool:
        """Say whether this request is dropped."""
        return self._dice.random() < self.trouble

    def open_days(self) -> list[Offer]:
        """Return the offers of the last days that have been posted."""
        today = self.clock().date()
        for days_back in range(DAYS_BACK + 1):
            day = today - timedelta(days=days_back)
            self.days.setdefault(day, offers_of(day, self.seed))
        return [offer for offers in self.days.values() for offer in offers if offer.posted <= self.clock()]

    def listed(self) -> list[dict[str, Any]]:
        """Return offers as they stand, those long over left out."""
        moment = self.clock()
        return [offer.status_at(moment) for offer in self.open_days() if offer.expires > moment or offer.taken_with]

    def accept(self, offer_id: str, revision: int, key: str) -> tuple[int, dict[str, Any]]:
        """Take an offer once for each key."""
        if key and key in self.answered:
            return self.answered[key]
        offer = next((offer for offer in self.open_days() if offer.id == offer_id), None)
        if offer is None:
            return 404, {"simulated": True}
        stands = offer.status_at(self.clock())
        fits = stands["state"] == "open" and stands["revision"] == revision and offer.expires > self.clock()
        if fits:
            offer.taken_with.add(key)
            stands = offer.status_at(self.clock())
        answer = (201 if fits else 409), {"simulated": True, "offer": stands}
        if key and fits:
            self.answered[key] = answer
        return answer


def create_service(
    seed: int = 7, clock: Callable[[], datetime] = MACHINE.now, trouble: float = 0.0, slow_s: float = 0.0
) -> FastAPI:
    """Build the simulated chip service."""
    app = FastAPI(title="Simulated chip service", openapi_url=None, docs_url=None, redoc_url=None)
    service = ChipStandIn(seed, clock, trouble)
    app.state.service = service

    def answer(make: Callable[[], tuple[int, dict[str, Any]]]) -> JSONResponse:
        if slow_s:
            time.sleep(slow_s)
        if service.fails():
            return JSONResponse({"simulated": True, "trouble": "out of reach for a moment"}, 503)
        status, content = make()
        return JSONResponse(content, status)

    @app.get("/chips/v1/offers")
    def offers() -> JSONResponse:
        """List offers."""
        return answer(lambda: (200, {"simulated": True, "offers": service.listed()}))

    @app.post("/chips/v1/offers/{offer_id}/acceptance")
    def accept(offer_id: str, entry: OfferAcceptance, idempotency_key: Annotated[str, Header()] = "") -> JSONResponse:
        """Take an offer."""
        return answer(lambda: service.accept(offer_id, entry.revision, idempotency_key))

    @app.post("/chips/v1/offers/{offer_id}/refusal")
    def refuse(offer_id: str) -> JSONResponse:
        """Hear that an offer is not wanted; another may still take it."""
        return answer(lambda: (200, {"simulated": True, "id": offer_id}))

    return app
