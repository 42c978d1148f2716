"""From the species a crew names to the material its chips are."""

from collections.abc import Sequence

CONIFERS = ("pine", "spruce", "fir", "larch", "cedar", "cypress", "yew", "hemlock", "juniper", "redwood", "thuja")
OF_THEIR_OWN = {"walnut": "walnut", "eucalypt": "eucalyptus", "gum": "eucalyptus", "palm": "palm"}
"""Kinds that are told apart whatever they are mixed with."""
LEAFY_MONTHS = range(5, 11)
"""May to October: broadleaf trees are felled and trimmed in leaf; common practice for the north, no source."""


def material_of(species: Sequence[str], month: int) -> str:
    """Return the key of the catalogue for chips of these species, cut in that month (1 to 12).

    Species are common names in any case. A mix with walnut is walnut, for its juglone; a mix that is mostly conifer
    has needles; anything else is broadleaf, leafy in the growing season.

    Parameters
    ----------
    species : sequence of str
        Common names.
    month : int
        Of the cut, 1 to 12.

    Returns
    -------
    str
    """
    words = [name.lower() for name in species]
    for name, key in OF_THEIR_OWN.items():
        if any(name in word for word in words):
            return key
    conifers = sum(any(name in word for name in CONIFERS) for word in words)
    if words and conifers * 2 > len(words):
        return "conifer_needles"
    return "arborist_leafy" if month in LEAFY_MONTHS else "arborist_bare"
