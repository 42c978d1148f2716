"""What a piece of ground is used for: the choice that decides nearly everything after it."""

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
    def label(self) -> str:
        """Its name as people say it."""
        return _LABELS[self]

    @property
    def trodden(self) -> bool:
        """Whether feet or wheels press the layer down."""
        return self in (Use.FOOT_PATH, Use.VEHICLE_PATH, Use.PLAY)


_LABELS = {
    Use.VEGETABLES: "Annual vegetables",
    Use.PERENNIALS: "Perennials and shrubs",
    Use.YOUNG_TREE: "Young trees",
    Use.ESTABLISHED_TREE: "Established trees",
    Use.FOOT_PATH: "Foot path",
    Use.VEHICLE_PATH: "Vehicle path or parking",
    Use.PLAY: "Play area",
    Use.BANK: "Bank or slope",
    Use.LAWN_TO_CONVERT: "Lawn to be converted",
    Use.SEEDBED: "Seedbed",
    Use.BULBS: "Bulbs and alliums, kept bare",
    Use.PILE_GROUND: "Compost or pile ground",
}
