"""What is laid: tissues, materials, the catalogue, mixes, guessing what a load is, and mixing piles."""

from ulmatic.core.materials.catalogue import CATALOGUE, USUAL_MATERIAL
from ulmatic.core.materials.identify import QUESTIONS, Finding, Findings, LoadQuestion, identify
from ulmatic.core.materials.material import FIGURES, Hazard, Kind, Material, Size, Stage, Worry
from ulmatic.core.materials.mixing import mix, with_figures
from ulmatic.core.materials.species import material_of
from ulmatic.core.materials.tissues import FRACTIONS, Tissue
