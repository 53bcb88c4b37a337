import contextlib

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zinnet.base.errors import UnitsError
from zinnet.base.units import (
    read_length,
    read_size,
    write_area,
    write_length,
)


@pytest.mark.parametrize(
    ("text", "mm"),
    [
        ('10 1/2"', 266.7),
        ("10.5in", 266.7),
        ("10.5 in", 266.7),
        ("10½″", 266.7),
        ("10½ in", 266.7),
        ("10-1/2 in", 266.7),
        ("½ in", 12.7),
        ("3/8in", 9.525),
        ("27 cm", 270),
        ("27,5 cm", 275),
        ("270mm", 270),
        ("270", 270),
        (".5 m", 500),
        ("-4", -4),
        ("−4 mm", -4),
        ("1 INCH", 25.4),
    ],
)
def test_reads_what_people_type(text, mm):
    # 1 in = 25.4 mm exactly: the international inch of 1959.
    assert read_length(text) == pytest.approx(mm, abs=1e-9)


@pytest.mark.parametrize(
    ("text", "mm"),
    [
        ("27cm - 2*1.5cm", 240),
        ("10 1/2in / 3", 88.9),
        ("(3+4) cm", 70),
        ("2 1/2 - 1/2", 2),
        ("10in + 5", 259),
        ("100/4 mm", 25),
        ("2*(40 - 3)", 74),
        ("-(1in)", -25.4),
        ("30 ÷ 4", 7.5),
    ],
)
def test_lengths_are_worked_out(text, mm):
    assert read_length(text) == pytest.approx(mm, abs=1e-9)


@given(st.floats(0, 900), st.floats(0.1, 90), st.integers(1, 9))
def test_sums_and_quotients_are_those_of_arithmetic(a, b, n):
    assert read_length(f"{a:.3f} mm - {b:.3f}cm * {n}") == pytest.approx(round(a, 3) - round(b, 3) * 10 * n, abs=1e-6)
    assert read_length(f"({a:.3f} + {b:.3f})in / {n}") == pytest.approx(
        (round(a, 3) + round(b, 3)) * 25.4 / n, abs=1e-6
    )


@given(st.text('0123456789 ./-+*()inmc½"', max_size=30))
def test_whatever_is_typed_is_a_length_or_one_sentence(text):
    with contextlib.suppress(UnitsError):
        assert isinstance(read_length(text), float)


def test_a_bare_number_is_in_the_users_unit():
    assert read_length("10 1/2", unit="in") == pytest.approx(266.7)
    assert read_length("270 mm", unit="in") == 270


@pytest.mark.parametrize(
    "text",
    [
        "",
        "abc",
        "10 kg",
        "1/0 in",
        "nan",
        "inf",
        "1e400",
        "10 1 2",
        "--3",
        "½½",
        "2cm*3cm",
        "(3",
        "3)",
        "1/(2-2)",
        "2*",
        "3 cm mm",
        "(" * 200,
    ],
)
def test_refuses_what_is_no_length_with_a_sentence(text):
    with pytest.raises(UnitsError) as caught:
        read_length(text)
    assert len(str(caught.value)) > 20


def test_a_length_of_a_mile_is_a_mistake_of_unit():
    with pytest.raises(UnitsError, match="check the unit"):
        read_length("1000 m")


@given(st.floats(-5000, 5000), st.sampled_from(["mm", "in"]))
def test_a_written_length_is_right_to_a_tenth_of_a_mm(mm, unit):
    assert abs(read_length(write_length(mm, unit=unit)) - mm) <= 0.1


@given(st.integers(0, 40 * 16))
def test_sixteenths_are_written_as_fractions(sixteenths):
    text = write_length(sixteenths * 25.4 / 16, unit="in")
    assert "." not in text
    assert read_length(text) == pytest.approx(sixteenths * 25.4 / 16)


@given(st.floats(-5000, 5000))
def test_inches_are_whole_or_have_a_fraction_never_a_point(mm):
    text = write_length(mm, unit="in", with_unit=False)
    whole, _, fraction = text.removeprefix("-").rpartition(" ") if "/" in text else (text, "", "")
    assert (whole or "0").lstrip("-").isdecimal()
    if fraction:
        top, bottom = map(int, fraction.split("/"))
        assert 0 < top < bottom
        assert bottom in (2, 4, 8, 16, 32, 64, 128)


def test_no_minus_zero():
    assert write_length(-0.01) == "0 mm"
    assert write_length(-0.01, unit="in") == "0 in"


@pytest.mark.parametrize(
    ("text", "size"), [("12x12in", (304.8, 304.8)), ("300 x 200", (300, 200)), ("300x20cm", (3000, 200))]
)
def test_reads_sizes(text, size):
    assert read_size(text) == pytest.approx(size)


@pytest.mark.parametrize("text", ["12", "0x5", "axb", "1x2x3", "-3x4"])
def test_refuses_sizes_that_are_none(text):
    with pytest.raises(UnitsError):
        read_size(text)


@pytest.mark.parametrize(
    ("mm2", "unit", "written"),
    [
        (100.0, "mm", "1.0 cm²"),
        (12_345.0, "mm", "123 cm²"),
        (1_234_500.0, "mm", "12,345 cm²"),
        (645.16, "in", "1.0 in²"),
        (0.0, "mm", "0.0 cm²"),
    ],
)
def test_areas_are_written_in_square_centimetres_or_inches(mm2, unit, written):
    assert write_area(mm2, unit=unit) == written
