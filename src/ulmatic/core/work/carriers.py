"""What carries chips from tip to plot: how much it holds, how fast it goes, and what it fits through."""

from enum import StrEnum

from ulmatic.core.figures import Mark, Parameter, Unit, make_parameter
from ulmatic.core.parameters import Parameters
from ulmatic.core.value import Value

_JUDGED = "A judgement, no published source: "


class CarrierKind(StrEnum):
    """Kinds of carriers."""

    BARROW = "barrow"
    BIN = "bin"
    CART = "cart"
    LOADER = "loader"


class Carrier(Value):
    """A carrier; `own_fill` is its own time for filling, where it fills itself."""

    kind: CarrierKind
    name: str
    volume: Parameter
    width: Parameter
    pace: Parameter
    own_fill: Parameter | None = None

    def with_parameters(self, parameters: Parameters) -> "Carrier":
        """Return it with the figures that are set in place of the shipped ones.

        Returns
        -------
        Carrier
        """
        named = {"volume": self.volume, "width": self.width, "pace": self.pace}
        figures = parameters.figures({**named, **({"own_fill": self.own_fill} if self.own_fill else {})})
        return self.model_copy(update=figures) if figures else self

    def parameters(self) -> tuple[Parameter, ...]:
        """Return its figures.

        Returns
        -------
        tuple of Parameter
        """
        return (self.volume, self.width, self.pace, *([self.own_fill] if self.own_fill else []))


def _carrier(
    kind: CarrierKind,
    name: str,
    volume: tuple[float, float, float],
    width: tuple[float, float, float],
    pace: tuple[float, float, float],
    what: str,
    own_fill: tuple[float, float, float] | None = None,
) -> Carrier:
    def rate(key: str, words: str, unit: Unit, numbers: tuple[float, float, float]) -> Parameter:
        return make_parameter(
            f"work.{kind}.{key}",
            f"{name}, {words}",
            numbers[0],
            unit,
            numbers[1],
            numbers[2],
            Mark.COMMON_PRACTICE,
            f"{_JUDGED}{what}",
        )

    return Carrier(
        kind=kind,
        name=name,
        volume=rate("volume", "heaped", "m3", volume),
        width=rate("width", "way it needs", "m", width),
        pace=rate("pace", "pace", "m_min", pace),
        own_fill=rate("fill", "filling itself", "min_m3", own_fill) if own_fill else None,
    )


CARRIERS: dict[CarrierKind, Carrier] = {
    carrier.kind: carrier
    for carrier in (
        _carrier(
            CarrierKind.BARROW,
            "Barrow",
            (0.10, 0.07, 0.17),
            (0.7, 0.6, 0.8),
            (50, 35, 60),
            "a garden barrow, loaded there and empty back on the level.",
        ),
        _carrier(
            CarrierKind.BIN,
            "Wheeled bin",
            (0.24, 0.12, 0.24),
            (0.65, 0.6, 0.7),
            (35, 25, 45),
            "a household bin of 240 L, tilted and pulled; hard to fill from the ground.",
        ),
        _carrier(
            CarrierKind.CART,
            "Cart",
            (0.35, 0.2, 0.5),
            (1.0, 0.9, 1.2),
            (40, 30, 50),
            "a two-wheeled garden cart, pulled by one person.",
        ),
        _carrier(
            CarrierKind.LOADER,
            "Compact loader",
            (0.4, 0.25, 0.6),
            (1.5, 1.2, 1.8),
            (80, 60, 100),
            "a stand-on or articulated loader with a light-material bucket; for trained drivers.",
            own_fill=(1.5, 1.0, 2.5),
        ),
    )
}
