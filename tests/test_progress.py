"""How far a job is: what "done" means at each station, and where to go on."""

import json

from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import RED_AND_BLUE, document_of, run_command
from zinnet.bench.document import Document
from zinnet.bench.nesting import nest_document
from zinnet.blanks.catalogue import measure_kinds
from zinnet.blanks.model import BlankSpec
from zinnet.demo import demo_document
from zinnet.job.edits import choose_blank, record_cut, set_measure, set_placement, set_sizes
from zinnet.plan.progress import Happened, Point, in_words, next_of, way_of
from zinnet.workshop.model import standard_workshop

STATIONS = ["measure", "artwork", "fit", "split", "nest", "cut", "press", "log"]


def missing(document, **happened):
    return {point.station: point.missing for point in way_of(document.plan, Happened(**happened))}


def test_a_job_without_artwork_says_what_it_needs_at_every_station():
    found = missing(Document(standard_workshop()))
    assert list(found) == STATIONS
    assert found["artwork"] == "no artwork yet"
    assert all(found.values())


def test_every_size_is_measured_for_measure_to_be_done():
    document = document_of(RED_AND_BLUE)
    document.apply(choose_blank(BlankSpec(kind="tee", size="adult-m")))
    document.apply(set_sizes((("adult-l", 1),)))
    assert missing(document)["measure"] == "adult M, adult L are not measured"
    document.apply(set_measure("chest", 530.0))
    assert missing(document)["measure"] == "adult L is not measured"
    kinds = measure_kinds("tee")
    for size in ("adult-m", "adult-l"):
        for name in kinds:
            document.apply(set_measure(name, document.plan.blank.measures[name], None if size == "adult-m" else size))
            if (size, name) == ("adult-l", "chest"):
                assert missing(document)["measure"] == f"adult L: {len(kinds) - 1} values are typical"
    assert not missing(document)["measure"]
    assert "blank-not-measured" not in [finding.id for finding in document.plan.findings]


def test_a_nested_job_is_cut_next_then_pressed_then_written_down():
    document = demo_document()
    nest_document(document)
    found = missing(document)
    assert [name for name, said in found.items() if not said] == ["measure", "artwork", "fit", "split", "nest"]
    assert found["cut"] == f"{len(document.plan.mats)} mats to cut"
    assert in_words(next_of(way_of(document.plan))) == f"Next: cut, {found['cut']}."
    document.apply(record_cut(1, ()))
    assert not missing(document)["cut"]
    assert missing(document)["press"] == f"{document.plan.copies} garments to press"
    assert not missing(document, pressed=True)["press"]
    assert set(missing(document, logged=True).values()) == {""}
    assert next_of(way_of(document.plan, Happened(logged=True))) is None


def test_an_open_stop_keeps_its_station_from_being_done():
    document = document_of(RED_AND_BLUE)
    document.apply(set_placement("width", width_mm=900.0))
    stops = [finding.station for finding in document.plan.open_stops]
    assert stops
    for station in set(stops):
        assert missing(document)[station]


@given(st.lists(st.booleans(), min_size=8, max_size=8), st.sampled_from([None, *STATIONS]))
def test_where_to_go_on_is_never_done_and_none_is_skipped(done, after):
    way = tuple(Point(name, "" if is_done else "something") for name, is_done in zip(STATIONS, done, strict=True))
    found = next_of(way, after)
    assert (found is None) == all(done)
    if found is None:
        return
    assert not found.is_done
    begin = 0 if after is None else STATIONS.index(after) + 1
    order = [*way[begin:], *way[:begin]]
    assert all(point.is_done for point in order[: order.index(found)])


def test_the_command_says_it_too(tmp_path):
    path = tmp_path / "walk.zinnet"
    demo_document().save(path)
    said = run_command("job", "way", path).stdout
    assert "artwork: done" in said
    assert said.splitlines()[-1].startswith("Next: cut, ")
    found = json.loads(run_command("job", "way", path, "--json").stdout)
    assert list(found) == STATIONS
    assert found["fit"] == {"done": True, "missing": ""}
