"""What have I got? From what can be seen, smelt and felt of a nameless load to a material with honest ranges."""

from collections.abc import Mapping
from typing import Literal

from pydantic import ConfigDict, Field

from ulmatic.core.figures import Mark, Parameter, Source
from ulmatic.core.materials.catalogue import CATALOGUE
from ulmatic.core.materials.material import FIGURES, Material, Stage
from ulmatic.core.tables import pairs_of, rows_of
from ulmatic.core.value import Value

Look = Literal["mixed_bits", "even_chips", "stringy", "fibrous", "dust", "straws", "leaves"]
Leaf = Literal["much", "some", "none", "needles"]
Piece = Literal["coarse", "finger", "small"]
Smell = Literal["green", "resin", "camphor", "sour", "earthy", "musty"]
Fork = Literal["stiff", "loose", "easy"]
Heat = Literal["hot", "warm", "cool"]


class Findings(Value):
    """What was found of the load; what is left open counts for nothing."""

    model_config = ConfigDict(extra="forbid")
    look: Look | None = Field(default=None, description="What its pieces look like")
    leaves: Leaf | None = Field(default=None, description="How much leaf is in it")
    size: Piece | None = Field(default=None, description="How large the pieces are")
    smell: Smell | None = Field(default=None, description="What a handful smells of")
    fork: Fork | None = Field(default=None, description="How a fork goes in")
    heat: Heat | None = Field(default=None, description="How warm it is an arm deep")


class LoadQuestion(Value):
    """One question of the guide with its answers."""

    field: str
    asks: str
    answers: dict[str, str]


QUESTIONS = tuple(
    LoadQuestion(
        **question,
        answers={row["answer"]: row["words"] for row in rows_of("load_answers") if row["field"] == question["field"]},
    )
    for question in rows_of("load_questions")
)
_SPEAKS_FOR: dict[tuple[str, str], dict[str, int]] = {
    (row["field"], row["answer"]): {key: int(points) for key, points in pairs_of(row["speaks_for"]).items()}
    for row in rows_of("load_answers")
}
"""How much each answer speaks for each material: a judgement, common practice, no source."""

NEAR = 2
"""Materials within this many points of the best stay possible, and widen the ranges."""


class Finding(Value):
    """What the load most likely is.

    Attributes
    ----------
    material : Material
        With the best guess's values and the ranges of everything that is still possible.
    stage : Stage
    likely : tuple of str
        Names of what is still possible, the best first.
    why, cautions : tuple of str
    """

    material: Material
    stage: Stage
    likely: tuple[str, ...]
    why: tuple[str, ...]
    cautions: tuple[str, ...]


def identify(findings: Findings) -> Finding | None:
    """Return what the findings speak for, or None while nothing that tells materials apart is known.

    Parameters
    ----------
    findings : Findings

    Returns
    -------
    Finding or None
    """
    answers = {key: value for key, value in findings.model_dump().items() if value is not None}
    scores: dict[str, int] = {}
    for field, answer in answers.items():
        for key, points in _SPEAKS_FOR[field, answer].items():
            scores[key] = scores.get(key, 0) + points
    if not scores:
        return None
    ranked = sorted(scores, key=lambda key: -scores[key])
    possible = [key for key in ranked if scores[key] >= scores[ranked[0]] - NEAR][:6]
    best = CATALOGUE[ranked[0]]
    questions = {question.field: question for question in QUESTIONS}
    why = tuple(
        f"{questions[field].answers[answer]}: suggests {best.name.lower()}."
        for field, answer in answers.items()
        if _SPEAKS_FOR[field, answer].get(best.key)
    )
    return Finding(
        material=_widened(best, [CATALOGUE[key] for key in possible]),
        stage=stage_of(findings),
        likely=tuple(CATALOGUE[key].name for key in possible),
        why=why,
        cautions=tuple(_cautions(findings)),
    )


def stage_of(findings: Findings) -> Stage:
    """Return the stage that smell, fork and heat speak for; fresh where nothing does.

    Parameters
    ----------
    findings : Findings

    Returns
    -------
    Stage
    """
    if findings.fork == "easy":
        return Stage.DECOMPOSED
    if findings.smell == "earthy" and findings.heat in (None, "cool"):
        return Stage.AGED
    if findings.smell in ("sour", "musty") or findings.heat in ("hot", "warm"):
        return Stage.AGEING
    return Stage.FRESH


def _cautions(findings: Findings) -> list[str]:
    cautions = []
    if findings.smell == "musty":
        cautions.append(
            "Mould spores: damp the pile, wear a close mask and stay upwind; people with lung disease or weak "
            "immunity keep away."
        )
    if findings.heat == "hot":
        cautions.append("Hot inside: keep it lower than {2 m}, open it carefully and watch for smoke.")
    if findings.smell == "sour":
        cautions.append("It was wet without air: spread it thinly for a few days before you use it round young plants.")
    if findings.look == "straws":
        cautions.append("Straw and hay may contain herbicide: grow beans in a pot of it before you use it on beds.")
    return cautions


def _widened(best: Material, possible: list[Material]) -> Material:
    def wide(field: str) -> Parameter:
        figure: Parameter = getattr(best, field)
        ends = [end for material in possible for end in _ends(getattr(material, field))]
        text = f"Value of {best.name.lower()}; the range is that of all {len(possible)} materials it may be."
        return figure.model_copy(
            update={
                "key": f"materials.found.{field}",
                "low": min(ends),
                "high": max(ends),
                "source": Source(mark=Mark.COMPUTED, text=text),
            }
        )

    changes: Mapping[str, object] = {field: wide(field) for field in FIGURES}
    hazards = tuple(sorted({hazard for material in possible for hazard in material.hazards}))
    return best.model_copy(
        update={"key": "found", "name": f"A load, probably {best.name.lower()}", "hazards": hazards, **changes}
    )


def _ends(parameter: Parameter) -> tuple[float, float]:
    low, high = parameter.low, parameter.high
    return parameter.value if low is None else low, parameter.value if high is None else high
