import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ulmatic.core.units import DEPTH, LENGTH, SHARE, VOLUME, Measure, MeasureError, UnitSystem, parse, parse_several
from ulmatic.core.units.parsing import number_text

METRIC, US = UnitSystem.METRIC, UnitSystem.US


@pytest.mark.parametrize(
    ("text", "metres"),
    [
        ("12'6\"", 3.81),
        ("12’6”", 3.81),
        ("12 ft 6 in", 3.81),
        ("4 ft 2", 1.27),
        ("3 in", 0.0762),
        ("2.5 m", 2.5),
        ("2,5 m", 2.5),
        ("250cm", 2.5),
        ("2 m 50", 2.5),
        ("1 m 5 cm", 1.05),
        ("3 1/2 in", 0.0889),
        ("3½ in", 0.0889),
        ("½ in", 0.0127),
        ("2 yds", 1.8288),
        ("450 mm", 0.45),
        ("1200 mm", 1.2),
        (".5 m", 0.5),
        ("6 feet", 1.8288),
        ("  7 Metres ", 7),
        ("10 ft.", 3.048),
    ],
)
def test_lengths_are_read_as_people_say_them(text, metres):
    assert parse(text, LENGTH, METRIC) == pytest.approx(metres, abs=1e-12)


@pytest.mark.parametrize(
    ("text", "measure", "system", "value"),
    [
        ("12", LENGTH, METRIC, 12),
        ("12", LENGTH, US, 3.6576),
        ("75", DEPTH, METRIC, 75),
        ("3", DEPTH, US, 76.2),
        ("0", DEPTH, US, 0),
        ("10", VOLUME, METRIC, 10),
        ("10", VOLUME, US, 7.64554857984),
        ("80 L", VOLUME, US, 0.08),
        ("12 yards", VOLUME, METRIC, 9.174658295808),
        ("6 cu. ft", VOLUME, METRIC, 0.169901079552),
        ("9 m³", VOLUME, US, 9),
        ("12 cy", VOLUME, US, 9.174658295808),
        ("10", SHARE, US, 0.1),
        ("7.5 %", SHARE, US, 0.075),
    ],
)
def test_bare_numbers_take_the_unit_of_the_system_and_kind(text, measure, system, value):
    assert parse(text, measure, system) == pytest.approx(value, abs=1e-12)


@pytest.mark.parametrize(
    "text",
    [
        "",
        "   ",
        "bananas",
        "12 bananas",
        "m",
        "12 kg",
        "1e5",
        "--3",
        "6'' 2'",
        "1/0",
        "12 6",
        "2 m 5",
        "3 m 2 m",
        "12 x",
        "nan",
        "inf",
        "12;DROP",
        "٣ m",
        "1" * 200,
        "99999 km",
        "\x00",
    ],
)
def test_nonsense_gets_one_sentence_that_says_what_would_be_understood(text):
    with pytest.raises(MeasureError) as caught:
        parse(text, LENGTH, US)
    sentence = str(caught.value)
    assert sentence.endswith((".", "?"))
    assert len(sentence) < 200


@pytest.mark.parametrize(
    ("text", "measure", "system", "value"),
    [
        # feet and inches, however they are joined
        ("3'-4 1/2\"", LENGTH, METRIC, 1.0287),
        ("3'-4\"", LENGTH, US, 1.016),
        ("3’ – 4”", LENGTH, US, 1.016),
        ("3 foot 6", LENGTH, METRIC, 1.0668),
        ("3 feet 6 inches", LENGTH, US, 1.0668),
        ("6' 3-1/2\"", LENGTH, US, 1.9177),
        ("12 ft - 6 in", LENGTH, METRIC, 3.81),
        ("5'", LENGTH, METRIC, 1.524),
        ("5' 11", LENGTH, US, 1.8034),
        ("1/2 ft", LENGTH, METRIC, 0.1524),
        ("0' 9\"", LENGTH, US, 0.2286),
        ("18 ins", LENGTH, US, 0.4572),
        # fractions
        ("2-1/2 in", DEPTH, METRIC, 63.5),
        ("2 1/2", DEPTH, US, 63.5),
        ("2½", DEPTH, US, 63.5),
        ("3⅞ in", DEPTH, US, 98.425),
        ("1/4 in", DEPTH, METRIC, 6.35),
        ("1 inch", DEPTH, METRIC, 25.4),
        ('3"', DEPTH, METRIC, 76.2),
        # metres and centimetres
        ("1m20", LENGTH, METRIC, 1.2),
        ("1 m 20", LENGTH, US, 1.2),
        ("1,20 m", LENGTH, METRIC, 1.2),
        ("1.2m", LENGTH, US, 1.2),
        ("120 cm", LENGTH, METRIC, 1.2),
        ("2 metres 5 cm", LENGTH, METRIC, 2.05),
        ("7,5 cm", DEPTH, METRIC, 75),
        ("7.5cm", DEPTH, US, 75),
        ("0,075 m", DEPTH, METRIC, 75),
        ("75mm", DEPTH, US, 75),
        ("2 meter", LENGTH, METRIC, 2),
        ("1.5 km", LENGTH, METRIC, 1500),
        ("0.125", LENGTH, METRIC, 0.125),
        # thousands with parts: what stands last is the decimal mark
        ("1,234.5", LENGTH, METRIC, 1234.5),
        ("1.234,5", LENGTH, METRIC, 1234.5),
        ("1 234,5 m", LENGTH, METRIC, 1234.5),
        ("2 500 mm", LENGTH, METRIC, 2.5),
        ("1,234.50 ft", LENGTH, US, 376.2756),
        ("12,5", LENGTH, METRIC, 12.5),
        ("1,200,000 mm", LENGTH, METRIC, 1200),
        ("1.200.000 mm", LENGTH, METRIC, 1200),
        ("12.50", LENGTH, METRIC, 12.5),
        # volumes
        ("10 cbm", VOLUME, METRIC, 10),
        ("10 cbm", VOLUME, US, 10),
        ("12 yards", VOLUME, US, 9.174658295808),
        ("12 yd³", VOLUME, METRIC, 9.174658295808),
        ("12 cubic yards", VOLUME, METRIC, 9.174658295808),
        ("6 cubic feet", VOLUME, US, 0.169901079552),
        ("80 litres", VOLUME, METRIC, 0.08),
        ("80 ltr", VOLUME, METRIC, 0.08),
        ("2 cu ft", VOLUME, METRIC, 0.056633693184),
        ("0,5 m3", VOLUME, US, 0.5),
        ("3/4 yd", VOLUME, US, 0.57341614349),
        ("1 m3", VOLUME, US, 1),
        ("40 L", VOLUME, METRIC, 0.04),
        # shares
        ("10%", SHARE, US, 0.1),
        ("0.1 %", SHARE, US, 0.001),
        ("12,5 %", SHARE, METRIC, 0.125),
        ("100", SHARE, METRIC, 1),
        ("0", SHARE, METRIC, 0),
        ("5 percent", SHARE, METRIC, 0.05),
        ("1/2 %", SHARE, METRIC, 0.005),
    ],
)
def test_what_people_write_is_read_as_they_mean_it(text, measure, system, value):
    assert parse(text, measure, system) == pytest.approx(value, rel=1e-9, abs=1e-12)


@pytest.mark.parametrize(
    ("text", "measure", "either"),
    [
        ("10.000", LENGTH, ("10", "10000")),
        ("1,234", LENGTH, ("1.234", "1234")),
        ("2.500 m", LENGTH, ("2.5", "2500")),
        ("12,000 mm", DEPTH, ("12", "12000")),
        ("1.250 L", VOLUME, ("1.25", "1250")),
        ("0.1", SHARE, ("10 %", "0.1 %")),
        (",5", SHARE, ("50 %", "0.5 %")),
        ("0,25", SHARE, ("25 %", "0.25 %")),
        ("1/4", SHARE, ("25 %", "0.25 %")),
    ],
)
def test_what_can_be_read_two_ways_is_asked_about(text, measure, either):
    with pytest.raises(MeasureError, match="two ways") as error:
        parse(text, measure, METRIC)
    assert all(reading in str(error.value) for reading in either)


@pytest.mark.parametrize(
    "text", ["1,234,5", "3-4", "3 - 4 m", "1m2", "1.2.3", "12 6", "4 in 3 ft", "1 23 m", "m20", "1//2 in"]
)
def test_what_nobody_can_mean_is_refused(text):
    with pytest.raises(MeasureError, match=r"can be read|Write"):
        parse(text, LENGTH, METRIC)


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
        ("12 x 3.5 m", US, (12, 3.5)),
        ("12' x 3'6\"", METRIC, (3.6576, 1.0668)),
        ("12 by 3", METRIC, (12, 3)),
        ("6 ft x 2 m", METRIC, (1.8288, 2)),
        ("250 x 80 cm", METRIC, (2.5, 0.8)),
        ("12×3", US, (3.6576, 0.9144)),
    ],
)
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


@given(st.floats(0.001, 9_000))
def test_a_number_that_is_written_is_read_as_it_was(value):
    assert parse(f"{number_text(value)} m", LENGTH, METRIC) == pytest.approx(value, rel=1e-9)
