import pytest
from hypothesis import given
from hypothesis import strategies as st

from ulmatic.core.figures import Mark
from ulmatic.core.materials import CATALOGUE, FIGURES, FRACTIONS, Findings, Kind, Stage, identify, mix, with_figures

materials = st.sampled_from(list(CATALOGUE.values()))
shares = st.floats(0.05, 1)


def test_the_catalogue_is_whole_and_says_where_each_figure_comes_from():
    assert len(CATALOGUE) >= 25
    assert {material.kind for material in CATALOGUE.values()} == set(Kind)
    for key, material in CATALOGUE.items():
        assert material.key == key
        assert sum(share for _, share in material.tissues) == pytest.approx(1)
        assert sum(material.fractions()) == pytest.approx(1)
        for figure in material.parameters():
            assert figure.low <= figure.value <= figure.high, figure.key
            assert figure.source.mark in (Mark.FROM_MEMORY, Mark.COMMON_PRACTICE), figure.key
            assert len(figure.source.text) > 15, figure.key
            assert (figure.source.mark is Mark.FROM_MEMORY) == ("from memory" in figure.source.text)
    for fractions in FRACTIONS.values():
        assert sum(fractions.as_tuple()) == pytest.approx(1)
        assert fractions.source.text


def test_decay_follows_the_order_of_practice():
    order = ["palm", "arborist_much_leaf", "conifer_needles", "clean_coarse", "conifer_bare", "heartwood"]
    rates = [CATALOGUE[key].rate.value for key in order]
    assert rates == sorted(rates, reverse=True)


@given(materials, materials, shares, shares)
def test_a_mix_lies_between_its_parts(first, other, a, b):
    mixed = mix([(first, a), (other, b)], "x", "Mix")
    swapped = mix([(other, b), (first, a)], "x", "Mix")
    for field in FIGURES:
        low, high = sorted([getattr(first, field).value, getattr(other, field).value])
        figure = getattr(mixed, field)
        assert low * (1 - 1e-9) - 1e-12 <= figure.value <= high * (1 + 1e-9) + 1e-12, field
        assert figure.low <= figure.value <= figure.high
        assert figure.value == pytest.approx(getattr(swapped, field).value)
    assert sum(mixed.fractions()) == pytest.approx(1)
    assert set(mixed.hazards) == set(first.hazards) | set(other.hazards)


@given(materials, shares)
def test_a_mix_of_one_material_is_that_material(material, share):
    mixture = mix([(material, share), (material, 1)], "x", "Mix")
    for field in FIGURES:
        assert getattr(mixture, field).value == pytest.approx(getattr(material, field).value)


def test_half_oak_with_leaf_half_pine_has_the_nitrogen_of_both():
    oak, pine = CATALOGUE["arborist_much_leaf"], CATALOGUE["conifer_bare"]
    mixed = mix([(oak, 0.5), (pine, 0.5)], "x", "Half and half")
    carbon = nitrogen = 0.0
    for species in (oak, pine):
        dry = 0.5 * species.density.value
        carbon += dry * species.carbon.value
        nitrogen += dry * species.carbon.value / species.cn.value
    assert mixed.cn.value == pytest.approx(carbon / nitrogen)
    with pytest.raises(ValueError, match="nothing to mix"):
        mix([(oak, 0)], "x", "Nothing")


def test_a_copy_says_what_was_entered_and_keeps_an_honest_range():
    straw = with_figures(CATALOGUE["straw"], "own", "Our straw", {"density": 200.0, "cn": 80.0})
    assert straw.density.source.mark is Mark.ENTERED
    assert (straw.density.low, straw.density.high) == (40, 200)
    assert straw.cn == CATALOGUE["straw"].cn, "the same value is not an straw one"


@pytest.mark.parametrize(
    ("answers", "first", "stage"),
    [
        ({"look": "mixed_bits", "leaves": "some", "heat": "hot"}, "arborist_leafy", Stage.AGEING),
        ({"look": "mixed_bits", "leaves": "needles", "smell": "resin"}, "conifer_needles", Stage.FRESH),
        ({"look": "stringy", "leaves": "none"}, "bark_shredded", Stage.FRESH),
        ({"look": "fibrous"}, "palm", Stage.FRESH),
        ({"look": "dust", "size": "small"}, "sawdust", Stage.FRESH),
        ({"look": "even_chips", "size": "coarse", "leaves": "none"}, "clean_coarse", Stage.FRESH),
        ({"look": "mixed_bits", "smell": "camphor"}, "eucalyptus", Stage.FRESH),
        ({"look": "mixed_bits", "smell": "earthy", "heat": "cool"}, "arborist_leafy", Stage.AGED),
        ({"look": "mixed_bits", "fork": "easy"}, "arborist_leafy", Stage.DECOMPOSED),
    ],
)
def test_a_nameless_load_is_guessed_with_ranges_of_all_it_may_be(answers, first, stage):
    finding = identify(Findings(**answers))
    assert finding.likely[0] == CATALOGUE[first].name
    assert finding.stage is stage
    possible = [material for material in CATALOGUE.values() if material.name in finding.likely]
    for field in FIGURES:
        figure = getattr(finding.material, field)
        assert figure.low == min(getattr(material, field).low for material in possible)
        assert figure.high == max(getattr(material, field).high for material in possible)


def test_what_says_nothing_is_not_guessed_and_mould_and_heat_bring_cautions():
    assert identify(Findings()) is None
    assert identify(Findings(fork="stiff")) is None
    mouldy = identify(Findings(look="mixed_bits", smell="musty", heat="hot"))
    assert "Mould spores" in mouldy.cautions[0]
    assert any("2 m" in caution for caution in mouldy.cautions)
