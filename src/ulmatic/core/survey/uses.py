"""What a piece of ground is used for: the choice that decides nearly everything after it."""

from dataclasses import dataclass
from enum import StrEnum


class Use(StrEnum):
    """Use of a plot."""

    VEGETABLES = "vegetables"
    PERENNIALS = "perennials"
    YOUNG_TREE = "young_tree"
    ESTABLISHED_TREE = "established_tree"
    FOOT_PATH = "foot_path"
    VEHICLE_PATH = "vehicle_path"
    PLAY = "play"
    BANK = "bank"
    LAWN_TO_CONVERT = "lawn_to_convert"
    SEEDBED = "seedbed"
    BULBS = "bulbs"
    PILE_GROUND = "pile_ground"

    @property
    def record(self) -> "UseRecord":
        """What follows from it."""
        return USES[self]

    @property
    def label(self) -> str:
        """Its name as people say it."""
        return self.record.label

    @property
    def trodden(self) -> bool:
        """Whether feet or wheels press the layer down."""
        return self.record.trodden


@dataclass(frozen=True)
class UseRecord:
    """What follows from a use.

    Attributes
    ----------
    label : str
        Its name as people say it.
    depths_mm : tuple of float
        Least, proposed and most settled depth.
    depths_source : str
    nitrogen_g_m2 : tuple of float or None
        What its plants take in a year: usual, least, most; a judgement, no source. None where nothing is to grow.
    trodden : bool
    bed, trees, bank : bool
        What grows there: beds of plants, trees, or plants that are to hold a bank.
    shallow : bool
        Whether roots feel the top centimetres; those of trees and shrubs reach below them: common practice, no source.
    edged : bool
        Whether it has an edge that is cut.
    """

    label: str
    depths_mm: tuple[float, float, float]
    depths_source: str
    nitrogen_g_m2: tuple[float, float, float] | None = None
    trodden: bool = False
    bed: bool = False
    trees: bool = False
    shallow: bool = False
    edged: bool = False
    bank: bool = False

    @property
    def planted(self) -> bool:
        """Whether plants grow there that chips may help or harm."""
        return self.bed or self.trees or self.bank


_PRACTICE = "Common practice; no published source."
USES: dict[Use, UseRecord] = {
    Use.VEGETABLES: UseRecord(
        "Annual vegetables",
        (75, 100, 150),
        "Common practice between crops; less lies round growing plants. No published source.",
        nitrogen_g_m2=(12.0, 6.0, 20.0),
        bed=True,
        shallow=True,
        edged=True,
    ),
    Use.PERENNIALS: UseRecord(
        "Perennials and shrubs",
        (50, 75, 75),
        "Common practice; 75 mm is the usual landscape depth. No published source.",
        nitrogen_g_m2=(4.0, 2.0, 8.0),
        bed=True,
        edged=True,
    ),
    Use.YOUNG_TREE: UseRecord(
        "Young trees",
        (50, 100, 150),
        "Common practice: 50 mm at first, building up. No published source.",
        nitrogen_g_m2=(4.0, 2.0, 8.0),
        trees=True,
    ),
    Use.ESTABLISHED_TREE: UseRecord(
        "Established trees", (150, 150, 300), _PRACTICE, nitrogen_g_m2=(3.0, 1.0, 6.0), trees=True
    ),
    Use.FOOT_PATH: UseRecord("Foot path", (75, 100, 150), _PRACTICE, trodden=True),
    Use.VEHICLE_PATH: UseRecord(
        "Vehicle path or parking",
        (150, 200, 300),
        "Common practice, coarse material; no published source.",
        trodden=True,
    ),
    Use.PLAY: UseRecord(
        "Play area",
        (225, 275, 300),
        "What is required (9 in settled, as loose-fill surfacing is often laid: US CPSC Publication 325, from "
        "memory) and a season's loss. Depth for a fall height is set by local rules and certified material.",
        trodden=True,
    ),
    Use.BANK: UseRecord(
        "Bank or slope",
        (50, 75, 100),
        "Common practice, shredded material; no published source.",
        nitrogen_g_m2=(2.0, 1.0, 5.0),
        bank=True,
    ),
    Use.LAWN_TO_CONVERT: UseRecord(
        "Lawn to be converted",
        (125, 150, 200),
        "Common practice over cardboard; no published source.",
        edged=True,
    ),
    Use.SEEDBED: UseRecord(
        "Seedbed",
        (0, 0, 0),
        "Common practice: bare until seedlings are up. No published source.",
        nitrogen_g_m2=(8.0, 4.0, 14.0),
        shallow=True,
    ),
    Use.BULBS: UseRecord(
        "Bulbs and alliums, kept bare",
        (0, 0, 0),
        "Common practice: kept bare, or covered once they are up. No published source.",
        nitrogen_g_m2=(6.0, 3.0, 10.0),
        shallow=True,
    ),
    Use.PILE_GROUND: UseRecord("Compost or pile ground", (0, 0, 0), "Nothing is laid where piles stand."),
}
