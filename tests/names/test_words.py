"""Words of a list in the texts of a job: columns in braces, filled by each row."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from zinnet.artwork.lettering.outlined_name import OutlinedNameSpec
from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.lettering.word_through import WordThroughSpec
from zinnet.artwork.source import OutlinedNameArt, TextArt, WordThroughArt, source_of
from zinnet.base.errors import ZinnetError
from zinnet.job.names.model import (
    MOST_LETTERS,
    NameField,
    NameList,
    NameRow,
)
from zinnet.job.names.words import (
    all_filled,
    columns_in,
    filled,
    with_words,
    words_of,
)

PLAIN = st.text(st.characters(exclude_characters="{}\n\r", exclude_categories=["Cs", "Cc"]), min_size=1, max_size=40)
SVG = source_of("box.svg", b'<svg xmlns="http://www.w3.org/2000/svg"><rect width="9" height="9"/></svg>')


def text(words):
    return TextArt(text=TextSpec(text=words))


def one(value, **fields):
    return NameRow(values=(value,), **fields)


NAMES = NameList(columns=("Name", "Team"), rows=(NameRow(values=("Ada", "Drums")), NameRow(values=("Bo", ""))))


@given(PLAIN.filter(lambda value: value.strip()), PLAIN, PLAIN)
def test_a_column_is_replaced_and_all_else_stays(value, before, after):
    names = NameList(columns=("name",), rows=(one(value),))
    source = filled(text(f"{before}{{name}}{after}"), names, names.rows[0])
    assert source.text.text == f"{before}{value}{after}"


def test_columns_are_named_once_in_their_order_without_regard_to_case_and_room():
    source = text("{team}\n{ NAME }, {team}")
    assert columns_in(source) == ("team", " NAME ")
    assert filled(source, NAMES, NAMES.rows[0]).text.text == "Drums\nAda, Drums"


def test_every_kind_of_words_has_its_texts_and_takes_others():
    outlined = OutlinedNameArt(name=OutlinedNameSpec(name="{name}", second="{team}"))
    through = WordThroughArt(word=WordThroughSpec(word="{name}"))
    assert words_of(outlined) == ("{name}", "{team}")
    assert words_of(through) == ("{name}",)
    assert words_of(SVG) == ()
    assert filled(outlined, NAMES, NAMES.rows[1]).name.second == ""
    assert filled(through, NAMES, NAMES.rows[0]).word.word == "Ada"
    assert with_words(SVG, str.upper) is SVG


def test_a_rows_film_colours_its_letters_and_nothing_else():
    row = one("Ada", colour="#d62828")
    names = NameList(columns=("name",), rows=(row,))
    assert filled(text("{name}"), names, row).text.colour == "#d62828"
    outlined = OutlinedNameArt(name=OutlinedNameSpec(name="{name}"))
    changed = filled(outlined, names, row)
    assert changed.name.colour == "#d62828"
    assert changed.name.outlines == outlined.name.outlines


def test_a_row_without_words_leaves_nothing():
    assert all_filled(text("{team}"), NAMES) == (text("Drums"), None)


def test_a_column_that_is_missing_is_named_with_those_that_are_there():
    with pytest.raises(ZinnetError, match="no column “nick”; it has: Name, Team"):
        filled(text("{nick}"), NAMES, NAMES.rows[0])


def test_braces_that_are_none_stay_as_they_are():
    for words in ("{}", "{a\nb}", "a } b {", "{" + "x" * 61 + "}"):
        assert columns_in(text(words)) == ()
        assert filled(text(words), NAMES, NAMES.rows[0]).text.text == words


@pytest.mark.parametrize(
    "fields",
    [
        {"columns": ("a", "b"), "rows": (one("x"),)},
        {"columns": ("a",), "rows": (one("x" * (MOST_LETTERS + 1)),)},
        {"columns": tuple("abcdefghijklm"), "rows": ()},
    ],
)
def test_a_list_that_is_not_whole_is_refused(fields):
    with pytest.raises(ValidationError):
        NameList(**fields)


@pytest.mark.parametrize("fields", [{"count": 0}, {"count": 1001}, {"colour": "red"}])
def test_a_row_that_can_not_be_is_refused(fields):
    with pytest.raises(ValidationError):
        one("Ada", **fields)


def test_a_field_is_the_designs_own_or_the_usual():
    own = NameField(design=2, width_mm=80.0, sizing="each its own")
    names = NameList(columns=("a",), rows=(one("x"),), fields=(own,))
    assert names.field(2) == own
    assert names.field(0) == NameField(design=0)


def test_garments_are_counted_by_size():
    rows = (one("a", count=2), one("b", size="adult-l"), one("c", size="adult-m", count=3))
    names = NameList(columns=("a",), rows=rows)
    assert names.count_of("adult-m", "adult-m") == 5
    assert names.count_of("adult-l", "adult-m") == 1
    assert names.count_of("toddler", "adult-m") == 0
