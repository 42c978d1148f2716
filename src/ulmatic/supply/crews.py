"""The chip service: asking it for offers and answering them, as with any service that may be slow, down or wrong.

The service that ships with Ulmatic is simulated (`ulmatic.standins.chips`); another one that speaks the same
protocol can stand in its place.
"""

from collections.abc import Callable
from typing import Any
from uuid import UUID

import httpx2
import structlog
from pydantic import ValidationError

from ulmatic.platform.asking import Answer, AskedService
from ulmatic.supply.schemas import CrewOffer

log = structlog.get_logger()

DEADLINE_S = 4.0
MOST_OFFERS = 200


class NoAnswer(Exception):
    """The service could not be reached, or did not answer in time; its text is a sentence for the reader."""


class Refused(Exception):
    """The service says no, as the load is taken, withdrawn or changed; `offer` is how it stands now, if known."""

    def __init__(self, offer: CrewOffer | None) -> None:
        super().__init__("refused")
        self.offer = offer


class Crews:
    """A client of the chip service.

    Parameters
    ----------
    url : str
        Its address.
    transport : callable, optional
        Makes another way to reach it.
    """

    def __init__(self, url: str, transport: Callable[[], httpx2.AsyncBaseTransport] | None = None) -> None:
        self._service = AskedService("chips", url, DEADLINE_S, transport)

    def _ask(self, method: str, path: str, **more: Any) -> Answer:
        """Send a request, again where it is safe to: all of them are, as answers carry a key of their own."""
        response = self._service.ask(method, path, fits=lambda status: status < 500 and status != 429, **more)
        if response is None:
            raise NoAnswer("The chip service does not answer. Its last report is shown. Try again later.")
        return response

    def offers(self) -> list[CrewOffer]:
        """Return the offers there are.

        Raises
        ------
        NoAnswer
        """
        answer = self._ask("GET", "/chips/v1/offers")
        try:
            listed = answer.json()["offers"]
            return [CrewOffer.model_validate(offer) for offer in listed[:MOST_OFFERS]]
        except (ValueError, KeyError, TypeError, ValidationError):
            log.warning("chips_unreadable")
            raise NoAnswer("The answer of the chip service cannot be read.") from None

    def accept(self, reference: str, revision: int, key: UUID) -> CrewOffer:
        """Take a load; the same key again takes it once.

        Raises
        ------
        NoAnswer
            Nothing is known then; the same key can be sent again.
        Refused
        """
        answer = self._ask(
            "POST",
            f"/chips/v1/offers/{reference}/acceptance",
            json={"revision": revision},
            headers={"Idempotency-Key": str(key)},
        )
        offer = self._offer(answer)
        if answer.status_code in (404, 409, 410):
            raise Refused(offer)
        if answer.status_code >= 400 or offer is None:
            raise NoAnswer("The chip service did not understand this.")
        return offer

    def decline(self, reference: str) -> None:
        """Say that a load is not wanted; whether the service hears it changes nothing here."""
        try:
            self._ask("POST", f"/chips/v1/offers/{reference}/refusal")
        except NoAnswer:
            log.info("chips_refusal_unheard")

    @staticmethod
    def _offer(answer: Answer) -> CrewOffer | None:
        try:
            return CrewOffer.model_validate(answer.json()["offer"])
        except (ValueError, KeyError, TypeError, ValidationError):
            return None
