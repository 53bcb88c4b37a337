"""Reading lists of names: CSV, pasted tables, and what people get wrong in them."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from zinnet.base.errors import ZinnetError
from zinnet.blanks.model import BlankSpec
from zinnet.job.model import Job
from zinnet.job.names.model import MOST_ROWS
from zinnet.job.names.reading import read_names_for
from zinnet.workshop.model import standard_workshop

TEE = Job(blank=BlankSpec(kind="tee", size="adult-m"))


CREAM = next(film.colour for film in standard_workshop().films if film.id == "cream")


def read(text, job=TEE):
    return read_names_for(job, standard_workshop(), text)


def test_one_name_to_a_line_needs_no_head():
    names = read("Ada\nBo\n\n  Cleo  Ray \n").names
    assert names.columns == ("name",)
    assert [row.values for row in names.rows] == [("Ada",), ("Bo",), ("Cleo Ray",)]
    assert {row.count for row in names.rows} == {1}


def test_a_csv_says_size_colour_and_count():
    names = read(
        "Name,Number,Size,Colour,Count\nAda,7,L,cream,2\nBo,12,youth M,#d62828,\n".replace("#d62828", "cream")
    ).names
    assert names.columns == ("Name", "Number")
    first, second = names.rows
    assert (first.values, first.size, first.count) == (("Ada", "7"), "adult-l", 2)
    assert (second.size, second.count) == ("youth-m", 1)
    assert first.colour == standard_workshop().film("cream").colour
    assert names.value(first, "number") == "7"


@pytest.mark.parametrize("delimiter", ["\t", ";", ","])
def test_a_pasted_table_is_read_by_its_own_delimiter(delimiter):
    text = "\n".join(delimiter.join(row) for row in (("name", "size"), ("Ada", "S"), ("Bo", "XL")))
    assert [row.size for row in read(text).names.rows] == ["adult-s", "adult-xl"]


def test_quotes_and_a_byte_order_mark_are_understood():
    names = read('\ufeffname,size\n"Ray, Cleo",M\n'.encode()).names
    assert names.rows[0].values == ("Ray, Cleo",)


def test_a_film_that_nobody_knows_keeps_its_row_and_is_said():
    found = read("name,colour\nAda,ultraviolet\nBram,cream\n")
    assert [(row.values, row.colour) for row in found.names.rows] == [(("Ada",), None), (("Bram",), CREAM)]
    assert found.remarks == (
        "No film is called so, the text's own is used: line 2 (“ultraviolet”). Give a film's name.",
    )


def test_rows_for_another_blank_are_left_out_and_said():
    found = read("name,blank\nAda,tee\nBo,tote\n")
    assert [row.values for row in found.names.rows] == [("Ada",)]
    assert found.remarks == ("Left out, for another blank: line 3 (tote).",)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "is empty"),
        ("name,size\nAda,enormous\n", "Line 2 of the list: this blank has no size “enormous”"),
        ("name,count\nAda,many\n", "Line 2 of the list: the count “many” is no whole number"),
        ("name,count\nAda,0\n", "the count “0” is no whole number"),
        ("name,size\n,M\n", "Line 2 of the list has no name"),
        ("name,size\nAda,M,7\n", "Line 2 of the list has 3 cells, its head 2"),
        ("name,size,size\nAda,M,M\n", "two columns for the size"),
        ("size,count\nM,2\n", "no column with words"),
        ("name,blank\nAda,tote\n", "No line of the list is for this job's blank"),
        ("name\n" + "x" * 201, "a word of 201 letters"),
        ("\n".join(["name", *["Ada"] * (MOST_ROWS + 1)]), f"{MOST_ROWS} are the most"),
        (",".join("abcdefghijklm") + "\n" + ",".join("name" for _ in range(13)), "12 are the most"),
        ('name\n"Ada', "can't be read as a table"),
        (b"name\n\xff\xfe\n", "no text in UTF-8"),
        (b"x" * 2_000_001, "more than 2 MB"),
    ],
)
def test_what_is_wrong_is_said_with_its_line(text, said):
    with pytest.raises(ZinnetError, match=said.replace("(", r"\(")):
        read(text)


@given(st.one_of(st.binary(max_size=300), st.text(max_size=300)))
def test_whatever_is_pasted_is_read_or_refused_in_a_sentence(data):
    try:
        found = read(data)
    except ZinnetError:
        return
    assert found.names.rows
    assert all(len(row.values) == len(found.names.columns) for row in found.names.rows)
