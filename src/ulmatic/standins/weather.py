"""A simulated weather service: past days and a ten-day outlook, seeded for each place.

It stands in for a service that knows the weather of a place, says `"simulated": true` in every answer, and is told the
monthly normals round which it invents days. It lags: the last two days are not there yet. It can fail.

Protocol: ``POST /weather/v1/days`` with ``place`` (any text, the seed), ``temperatures_c`` and ``rain_mm`` (twelve
normals), ``first`` and ``last`` (dates) answers ``days``, each with ``day``, ``tmax_c``, ``tmin_c`` and ``rain_mm``,
up to the lag and on to ten days ahead as ``outlook``.
"""

import math
import random
import time
from collections.abc import Callable
from datetime import date, timedelta
from typing import Annotated, Any

from fastapi import FastAPI
from fastapi.responses import JSONResponse
from pydantic import BaseModel, Field

from ulmatic.platform.clock import MACHINE

LAG_DAYS, OUTLOOK_DAYS, MOST_DAYS = 2, 10, 1_500
WET_SHARE = 0.4


class Asked(BaseModel):
    """Which days of which place."""

    place: Annotated[str, Field(max_length=200)]
    temperatures_c: Annotated[list[float], Field(min_length=12, max_length=12)]
    rain_mm: Annotated[list[float], Field(min_length=12, max_length=12)]
    first: date
    last: date


def day_of(request: Asked, day: date) -> dict[str, Any]:
    """Invent one day: its year's and its week's departure from the normals, and showers on two days in five."""
    year = random.Random(f"{request.place} {day.year}")  # noqa: S311 - invented weather, no secret
    week = random.Random(f"{request.place} {day.isocalendar()[:2]}")  # noqa: S311
    dice = random.Random(f"{request.place} {day.isoformat()}")  # noqa: S311
    month = day.month - 1
    towards = (month + 1) % 12 if day.day > 15 else (month - 1) % 12
    share = abs(day.day - 15) / 31
    mean = request.temperatures_c[month] * (1 - share) + request.temperatures_c[towards] * share
    mean += year.gauss(0, 0.7) + week.gauss(0, 2.2) + dice.gauss(0, 1.2)
    swing = abs(dice.gauss(4.5, 1.2))
    wet = dice.random() < WET_SHARE
    rain = 0.0
    if wet:
        each = request.rain_mm[month] / 30.4 / WET_SHARE * max(0.3, year.gauss(1, 0.15))
        rain = -math.log(1 - dice.random()) * each
    return {
        "day": day.isoformat(),
        "tmax_c": round(mean + swing, 1),
        "tmin_c": round(mean - swing, 1),
        "rain_mm": round(rain, 1),
    }


def create_service(today: Callable[[], date] = MACHINE.today, trouble: float = 0.0, slow_s: float = 0.0) -> FastAPI:
    """Build the simulated weather service."""
    app = FastAPI(title="Simulated weather service", openapi_url=None, docs_url=None, redoc_url=None)
    app.state.trouble = trouble
    dice = random.Random(11)  # noqa: S311

    @app.post("/weather/v1/days")
    def days(request: Asked) -> JSONResponse:
        """Return past days and the outlook."""
        if slow_s:
            time.sleep(slow_s)
        if dice.random() < app.state.trouble:
            return JSONResponse({"simulated": True, "trouble": "out of reach for a moment"}, 503)
        known = today() - timedelta(days=LAG_DAYS)
        last = min(request.last, known)
        count = min(MOST_DAYS, max(0, (last - request.first).days + 1))
        past = [day_of(request, last - timedelta(days=days_back)) for days_back in range(count)]
        ahead = [day_of(request, known + timedelta(days=step)) for step in range(1, OUTLOOK_DAYS + 1)]
        return JSONResponse({"simulated": True, "days": past[::-1], "outlook": ahead})

    return app
