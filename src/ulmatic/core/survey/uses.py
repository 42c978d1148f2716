"""What a piece of ground is used for: the choice that decides nearly everything after it."""

from dataclasses import dataclass
from enum import StrEnum

from ulmatic.core.tables import rows_of


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


def _use(row: dict[str, str]) -> UseRecord:
    least_mm, proposed_mm, most_mm = map(float, row["depths_mm"].split())
    nitrogen = tuple(map(float, row["nitrogen_g_m2"].split()))
    return UseRecord(
        row["label"],
        (least_mm, proposed_mm, most_mm),
        row["depths_source"],
        nitrogen if len(nitrogen) == 3 else None,
        **dict.fromkeys(row["traits"].split(), True),
    )


USES: dict[Use, UseRecord] = {Use(row["use"]): _use(row) for row in rows_of("uses")}
