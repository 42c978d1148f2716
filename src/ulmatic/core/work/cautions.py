"""Who can get hurt: cautions as data, each tied to the task or condition that raises it."""

from pydantic import BaseModel, ConfigDict

_LICENSED = "Local codes and licensed practice come first."


class Caution(BaseModel):
    """A caution: what it is about, and what to do; common practice, deferring to local codes and licensed practice."""

    model_config = ConfigDict(frozen=True)
    key: str
    about: str
    words: str


CAUTIONS = {
    caution.key: caution
    for caution in (
        Caution(
            key="spores",
            about="Spores and dust",
            words="Damp the pile before you open it, stay upwind and wear a mask. People with lung disease or weak "
            "immunity keep away from mouldy piles.",
        ),
        Caution(
            key="hot_pile",
            about="Heat in a pile",
            words="A fresh pile above 2 m heats and can smoulder. Measure its temperature, turn it with water at hand. "
            f"{_LICENSED}",
        ),
        Caution(
            key="lifting",
            about="Backs",
            words="Many barrows: lift with bent knees, fill barrows so that you can push them, change tasks, rest.",
        ),
        Caution(key="heat", about="Heat", words="Hot month: start early, work in the shade, drink, and stop at noon."),
        Caution(
            key="machine",
            about="Machines",
            words="Trained people only, guards on, eye and ear protection, nobody within 15 m of a strimmer. "
            f"{_LICENSED}",
        ),
        Caution(
            key="dogs",
            about="Dogs",
            words="Cocoa shell poisons dogs: do not lay it where they come.",
        ),
        Caution(
            key="play",
            about="Play ground",
            words="Depth under play equipment depends on the fall height; surfacing has to be certified. Keep children "
            f"off piles. {_LICENSED}",
        ),
        Caution(
            key="fire",
            about="Fire",
            words="Fire-prone district: keep mulch away from walls, and ask what the local rules allow. " + _LICENSED,
        ),
        Caution(
            key="disease",
            about="Disease",
            words="Wood of a diseased tree may be among it: keep it off trunks of its kind, and follow quarantine "
            "rules.",
        ),
        Caution(
            key="weed_seed",
            about="Weed seed",
            words="Weed seed may be among it: lay it where seedlings can be pulled, and look again in three weeks.",
        ),
        Caution(
            key="herbicide",
            about="Weedkiller",
            words="It may carry weedkiller: grow cress in it first, and keep it off vegetables.",
        ),
        Caution(
            key="awns",
            about="Awns",
            words="Straw and hay of barley-type grasses have awns that get into paws and ears: keep dogs away.",
        ),
        Caution(
            key="children",
            about="Children and piles",
            words="Children climb piles, and piles slide: fence them off, and cover them when nobody is there.",
        ),
        Caution(
            key="water",
            about="Water",
            words="No dressing near water, on frozen or sodden ground, or before heavy rain: nitrogen washes into it. "
            f"{_LICENSED}",
        ),
        Caution(
            key="services",
            about="Buried services",
            words="Ask where cables and pipes lie before you drive stakes or dig edges deep. " + _LICENSED,
        ),
        Caution(
            key="walls",
            about="Walls and timber",
            words="Keep chips a hand’s breadth below sills and clear of timber: damp, termites, fire. " + _LICENSED,
        ),
        Caution(
            key="char_dust",
            about="Char dust",
            words="Wet biochar before you spread it, and wear a mask.",
        ),
    )
}
"""By key, in the order in which they are shown."""
