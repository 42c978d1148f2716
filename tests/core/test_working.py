import math

import pytest

from ulmatic.core.figures import Formula, Mark, ceil, entered, make_parameter

LENGTH, WIDTH = entered("Length", 4, "m"), entered("Width", 2.5, "m")


def test_a_formula_is_evaluated_and_set_in_type_from_the_same_text():
    figure = Formula("l * b / 2").work("Area", "m2", {"l": LENGTH, "b": WIDTH})
    assert figure.value == 5
    assert "".join(figure.working.formula) == "l × b ÷ 2"
    assert [(term.symbol, term.figure.name) for term in figure.working.terms] == [("l", "Length"), ("b", "Width")]


@pytest.mark.parametrize(
    ("text", "written"),
    [
        ("A * max(0, d - d0) / (1 - s)", "A × max(0, d − d0) ÷ (1 − s)"),
        ("pi * (R**2 - r**2)", "π × (R² − r²)"),
        ("a - (b - c)", "a − (b − c)"),
        ("a / (b * c)", "a ÷ (b × c)"),
        ("(a + b) * c", "(a + b) × c"),
        ("ceil(V / B)", "round up(V ÷ B)"),
        ("a - b - c", "a − b − c"),
    ],
)
def test_brackets_are_kept_where_they_matter(text, written):
    assert "".join(Formula(text).pieces) == written


@pytest.mark.parametrize(
    "text", ["__import__('os')", "a.b", "[1]", "lambda: 1", "a if b else c", "'x'", "f(a)", "a ** b"]
)
def test_a_formula_is_nothing_but_arithmetic(text):
    with pytest.raises(ValueError, match="not arithmetic"):
        Formula(text)


def test_depths_in_millimetres_meet_lengths_in_metres():
    depth = entered("Depth", 75, "mm")
    assert Formula("A * d").work("Volume", "m3", {"A": entered("Area", 8, "m2"), "d": depth}).value == pytest.approx(
        0.6
    )
    assert Formula("d * 2").work("Twice", "mm", {"d": depth}).value == pytest.approx(150)


def test_ranges_pass_through_a_formula():
    loss = make_parameter("k", "Loss", 0.2, "1", 0.1, 0.5, Mark.COMMON_PRACTICE, "nobody")
    figure = Formula("V / (1 - s)").work("Loose", "m3", {"V": entered("Settled", 9, "m3"), "s": loss})
    assert (figure.low, figure.value, figure.high) == pytest.approx((10, 11.25, 18))
    assert Formula("l * b").work("Area", "m2", {"l": LENGTH, "b": WIDTH}).low is None


def test_rounding_up_forgives_binary_fractions_but_not_real_ones():
    assert ceil(0.3 / 0.1) == 3
    assert ceil(3.0001) == 4
    assert ceil(0) == 0
    assert math.isclose(Formula("ceil(a / b)")(a=0.7, b=0.1), 7)
