"""What is laid: tissues, materials, the catalogue, mixes, guessing what a load is, and mixing piles."""

from ulmatic.core.materials.catalogue import CATALOGUE, USUAL_MATERIAL
from ulmatic.core.materials.identify import QUESTIONS, Finding, Findings, LoadQuestion, identify
from ulmatic.core.materials.material import FIGURES, Hazard, Kind, Material, Size, Stage, Worry
from ulmatic.core.materials.mixing import mix, with_figures
from ulmatic.core.materials.species import material_of
from ulmatic.core.materials.tissues import FRACTIONS, Tissue

__all__ = [
    "CATALOGUE",
    "FIGURES",
    "FRACTIONS",
    "QUESTIONS",
    "USUAL_MATERIAL",
    "Finding",
    "Findings",
    "Hazard",
    "Kind",
    "LoadQuestion",
    "Material",
    "Size",
    "Stage",
    "Tissue",
    "Worry",
    "identify",
    "material_of",
    "mix",
    "with_figures",
]
