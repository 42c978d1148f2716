import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ulmatic.core.units import DEPTH, LENGTH, SHARE, VOLUME, Measure, MeasureError, UnitSystem, parse, parse_several

METRIC, US = UnitSystem.METRIC, UnitSystem.US


@pytest.mark.parametrize(
    ("text", "metres"),
    [
        ("12'6\"", 3.81), ("12’6”", 3.81), ("12 ft 6 in", 3.81), ("4 ft 2", 1.27), ("3 in", 0.0762), ("2.5 m", 2.5),
        ("2,5 m", 2.5), ("250cm", 2.5), ("2 m 50", 2.5), ("1 m 5 cm", 1.05), ("3 1/2 in", 0.0889), ("3½ in", 0.0889),
        ("½ in", 0.0127), ("2 yds", 1.8288), ("450 mm", 0.45), ("1200 mm", 1.2), (".5 m", 0.5), ("6 feet", 1.8288),
        ("  7 Metres ", 7), ("10 ft.", 3.048),
    ],
)  # fmt: skip
def test_lengths_are_read_as_people_say_them(text, metres):
    assert parse(text, LENGTH, METRIC) == pytest.approx(metres, abs=1e-12)


@pytest.mark.parametrize(
    ("text", "measure", "system", "value"),
    [
        ("12", LENGTH, METRIC, 12), ("12", LENGTH, US, 3.6576), ("75", DEPTH, METRIC, 75), ("3", DEPTH, US, 76.2),
        ("0", DEPTH, US, 0), ("10", VOLUME, METRIC, 10), ("10", VOLUME, US, 7.64554857984), ("80 L", VOLUME, US, 0.08),
        ("12 yards", VOLUME, METRIC, 9.174658295808), ("6 cu. ft", VOLUME, METRIC, 0.169901079552),
        ("9 m³", VOLUME, US, 9), ("12 cy", VOLUME, US, 9.174658295808), ("10", SHARE, US, 0.1),
        ("7.5 %", SHARE, US, 0.075),
    ],
)  # fmt: skip
def test_bare_numbers_take_the_unit_of_the_system_and_kind(text, measure, system, value):
    assert parse(text, measure, system) == pytest.approx(value, abs=1e-12)


@pytest.mark.parametrize(
    "text",
    ["", "   ", "bananas", "12 bananas", "m", "12 kg", "1e5", "--3", "6'' 2'", "1/0", "12 6", "2 m 5", "3 m 2 m",
     "12 x", "nan", "inf", "12;DROP", "٣ m", "1" * 200, "99999 km", "\x00"],
)  # fmt: skip
def test_nonsense_gets_one_sentence_that_says_what_would_be_understood(text):
    with pytest.raises(MeasureError) as caught:
        parse(text, LENGTH, US)
    sentence = str(caught.value)
    assert sentence.endswith((".", "?"))
    assert len(sentence) < 200


def test_signs_and_sizes_that_cannot_be_meant_are_refused_in_words():
    for text, words in [
        ("-3 m", "below zero"),
        ("1,200", "two ways"),
        ("0 m", "more than 0"),
        ("500 km", "unit right"),
    ]:
        with pytest.raises(MeasureError, match=words):
            parse(text, LENGTH, METRIC)
    with pytest.raises(MeasureError, match=r"2\.5 m"):
        parse("wide", LENGTH, METRIC)


@pytest.mark.parametrize(
    ("text", "system", "metres"),
    [
        ("12 x 3.5 m", US, (12, 3.5)), ("12' x 3'6\"", METRIC, (3.6576, 1.0668)), ("12 by 3", METRIC, (12, 3)),
        ("6 ft x 2 m", METRIC, (1.8288, 2)), ("250 x 80 cm", METRIC, (2.5, 0.8)), ("12×3", US, (3.6576, 0.9144)),
    ],
)  # fmt: skip
def test_a_bare_number_takes_its_right_neighbours_unit(text, system, metres):
    assert parse_several(text, LENGTH, system, r"x|by") == pytest.approx(metres)


plain_numbers = st.decimals(min_value="0.01", max_value="900", places=2)


@given(plain_numbers, st.sampled_from(["m", "cm", "mm", "ft", "in", "yd"]))
def test_what_a_number_means_does_not_depend_on_the_site_once_its_unit_is_said(number, unit):
    text = f"{number} {unit}"
    assert parse(text, LENGTH, METRIC) == parse(text, LENGTH, US)


@given(
    st.integers(0, 500), st.integers(0, 11), st.sampled_from(["{f}'{i}\"", "{f} ft {i} in", "{f} ft {i}", "{f}′ {i}″"])
)
def test_feet_and_inches_add_up(feet, inches, form):
    if feet + inches:
        metres = parse(form.format(f=feet, i=inches), LENGTH, METRIC)
        assert math.isclose(metres, (12 * feet + inches) * 0.0254, rel_tol=1e-9)


@given(st.text(max_size=80), st.sampled_from([LENGTH, DEPTH, VOLUME, SHARE]), st.sampled_from(UnitSystem))
def test_any_text_is_either_a_value_within_limits_or_a_sentence(text: str, measure: Measure, system):
    try:
        value = parse(text, measure, system)
    except MeasureError as error:
        assert str(error)  # noqa: PT017 - either outcome is right
    else:
        assert measure.least <= value <= measure.most
