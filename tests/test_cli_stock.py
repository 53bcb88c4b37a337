"""The shelf and the scraps on the command line, run as people run it."""

import json

import pytest
import shapely
from shapely import affinity

from tests.helpers import run_command as run
from tests.helpers import svg


def drawn(width, height, body):
    return svg(body, f"width='{width}mm' height='{height}mm' viewBox='0 0 {width} {height}'")


SQUARES = (
    "<rect id='a' width='40' height='40'/><rect id='b' width='20' height='30'/><circle id='c' r='9' cx='9' cy='9'/>"
)
SCRAP = "<path fill-rule='evenodd' d='M10 10H210V110H10Z M60 30H120V90H60Z'/>"
SPOT = "<rect x='150' y='40' width='20' height='20'/>"
FRAMES = (
    "<path id='frame' fill-rule='evenodd' d='M0 0H100V100H0Z M10 10H90V90H10Z'/>"
    "<rect id='inner' width='60' height='60'/>"
)
HOLE, BAD = shapely.box(60, 30, 120, 90), shapely.box(150, 40, 170, 60)


@pytest.fixture
def files(tmp_path):
    (tmp_path / "pieces.svg").write_bytes(drawn(40, 40, SQUARES))
    (tmp_path / "scrap.svg").write_bytes(drawn(220, 120, SCRAP))
    (tmp_path / "spot.svg").write_bytes(drawn(220, 120, SPOT))
    return tmp_path


def placed_shapes(sheet):
    shapes = {
        "a": shapely.box(0, 0, 40, 40),
        "b": shapely.box(0, 0, 20, 30),
        "c": shapely.Point(9, 9).buffer(9),
    }
    return [
        affinity.translate(affinity.rotate(shapes[p["piece"]], p["turn_deg"], origin=(0, 0)), p["x_mm"], p["y_mm"])
        for p in sheet["placements"]
    ]


def test_pieces_go_on_the_scrap_first_and_keep_out_of_its_hole_and_its_spot(files):
    out = files / "layout.json"
    arguments = ("--scrap", files / "scrap.svg", "--keep-out", files / "spot.svg", "--roll", "300x1000mm")
    options = ("--copies", 3, "--gap", "2mm", "--margin", "2mm", "--steps", 16, "--out", out)
    done = run("nest", files / "pieces.svg", *arguments, *options)
    assert (done.returncode, done.stderr) == (0, "")
    layout = json.loads(out.read_text())
    assert layout["unplaced"] == []
    assert sum(len(sheet["placements"]) for sheet in layout["sheets"]) == 9
    scraps = [sheet for sheet in layout["sheets"] if sheet["kind"] == "scrap"]
    assert len(scraps) == 1
    film = (
        shapely.box(10, 10, 210, 110).difference(shapely.box(60, 30, 120, 90)).difference(shapely.box(150, 40, 170, 60))
    )
    shapes = placed_shapes(scraps[0])
    assert len(shapes) >= 5
    for k, one in enumerate(shapes):
        assert film.buffer(-1.99).covers(one)
        assert all(one.distance(other) >= 1.99 for other in shapes[:k])


@pytest.mark.long
def test_small_pieces_lie_in_counters_only_where_that_is_allowed(tmp_path):
    (tmp_path / "pieces.svg").write_bytes(drawn(100, 100, FRAMES))
    out = tmp_path / "nest.json"

    def reach(seconds, *options):
        usual = ("--roll", "110x500mm", "--gap", "2mm", "--seconds", seconds, "--out", out)
        assert run("nest", tmp_path / "pieces.svg", *usual, *options).returncode == 0
        return json.loads(out.read_text())["sheets"][0]["used_length_mm"]

    inside = (reach(seconds, "--inside-counters") for seconds in (1.5, 6, 24, 96))
    assert next((length for length in inside if length < 101), None) == pytest.approx(100, abs=0.1)
    assert reach(1.5) == pytest.approx(162, abs=0.1)


def test_the_shelf_is_filled_listed_corrected_and_emptied(files):
    assert run("stock", "list").stdout.startswith("Nothing on the shelf")
    roll = run(
        "stock", "add", "--film", "white", "--kind", "roll", "--size", "305x5000mm", "--price", 30, "--place", "rack"
    )
    assert (roll.returncode, roll.stdout.strip(), roll.stderr) == (0, "1", "")
    scrap = run(
        "stock",
        "add",
        "--film",
        "sand",
        "--kind",
        "scrap",
        "--outline",
        files / "scrap.svg",
        "--spoiled",
        files / "spot.svg",
    )
    assert (scrap.stdout.strip(), scrap.stderr) == ("2", "")
    rows = json.loads(run("stock", "list", "--json").stdout)
    assert [row["kind"] for row in rows] == ["roll", "scrap"]
    assert rows[0]["worth"] == pytest.approx(30)
    assert (rows[1]["length_mm"], rows[1]["width_mm"]) == pytest.approx((200, 100))
    assert rows[1]["area_mm2"] == pytest.approx(200 * 100 - 60 * 60)
    assert run("stock", "correct", 1, "--why", "measured", "--size", "305x4800mm").returncode == 0
    assert "measured" in run("stock", "history", 1).stdout
    assert run("stock", "export", files / "stock.csv").returncode == 0
    assert run("stock", "out", 2, "--why", "used").returncode == 0
    again = run("stock", "import", files / "stock.csv")
    assert (again.returncode, again.stdout.split()) == (0, ["3", "4"])
    assert [row["number"] for row in json.loads(run("stock", "list", "--find", "white", "--json").stdout)] == [1, 3]


@pytest.mark.parametrize(
    "arguments",
    [
        ("nest", "{pieces}", "--out", "x"),
        ("nest", "{pieces}", "--scrap", "missing.svg", "--out", "x"),
        ("nest", "{pieces}", "--roll", "0x10", "--out", "x"),
        ("nest", "{pieces}", "--roll", "wide", "--out", "x"),
        ("nest", "{pieces}", "--sheet", "10x10", "--copies", "0", "--out", "x"),
        ("stock", "add", "--film", "unicorn", "--kind", "roll", "--size", "300x1000"),
        ("stock", "add", "--film", "white", "--kind", "rope", "--size", "300x1000"),
        ("stock", "add", "--film", "white", "--kind", "roll"),
        ("stock", "add", "--film", "white", "--kind", "roll", "--size", "0x1000"),
        ("stock", "out", "77", "--why", "gone"),
        ("stock", "correct", "77", "--why", "slip", "--size", "300x1000"),
        ("stock", "import", "missing.csv"),
        ("stock", "restore"),
    ],
)
def test_errors_are_one_sentence_and_exit_2(arguments, files):
    done = run(*(argument.format(pieces=files / "pieces.svg") for argument in arguments))
    assert done.returncode == 2
    assert len(done.stderr.strip().splitlines()) == 1
    assert "Traceback" not in done.stderr
