"""The command line, run as people run it."""

import json
import xml.etree.ElementTree as ET
from pathlib import Path

import pytest
from PIL import Image, ImageDraw

from tests.helpers import LANTERN, RED_AND_BLUE, document_of, svg
from tests.helpers import run_command as run
from zinnet.demo.walk import WALK_JOBS
from zinnet.job.edits import set_placement


@pytest.fixture
def artwork(tmp_path):
    path = tmp_path / "lantern.svg"
    path.write_bytes(svg(LANTERN))
    return path


def test_plan_writes_the_plan_the_findings_and_the_cut_files(artwork, tmp_path):
    out = tmp_path / "out"
    done = run(
        "plan",
        artwork,
        "--blank",
        "tee-adult",
        "--measure",
        "chest=52cm",
        "--width",
        "5in",
        "--mat",
        "12x12in",
        "--seconds",
        "0.5",
        "--out",
        out,
    )
    assert (done.returncode, done.stderr) == (0, "")
    plan = json.loads((out / "plan.json").read_text())
    assert plan["blank"]["measures"]["chest"] == {"mm": 520.0, "measured": True}
    assert plan["placement"]["width_mm"] == pytest.approx(127)
    names = {path.name for path in out.iterdir()}
    assert names == {"plan.json", "findings.json"} | {m[k] for m in plan["mats"] for k in ("svg", "plt")}
    assert {"mat-01-amber.svg", "mat-01-amber.plt", "mat-02-scarlet.svg"} <= names
    assert all(mat["mirrored"] for mat in plan["mats"])
    assert {row["id"] for row in json.loads((out / "findings.json").read_text())} == {
        "blank-not-measured",
        "hard-to-read",
        "loading-side",
        "no-test-cut",
        "stray-film",
    }


def test_an_open_stop_keeps_cut_files_back_and_takes_old_ones_away(artwork, tmp_path):
    out = tmp_path / "out"
    assert run("plan", artwork, "--seconds", "0.3", "--out", out).returncode == 0
    assert list(out.glob("mat-*"))
    done = run("plan", artwork, "--width", "60cm", "--seconds", "0.3", "--out", out)
    assert done.returncode == 1
    assert "No cut files are written" in done.stderr
    assert not list(out.glob("mat-*"))
    assert "outside-usable-area" in [row["id"] for row in json.loads((out / "findings.json").read_text())]


def test_split_writes_one_file_per_layer_in_the_same_box(tmp_path):
    source, out = tmp_path / "two.svg", tmp_path / "out"
    source.write_bytes(svg(RED_AND_BLUE, 'viewBox="-10 -10 200 200"'))
    assert run("split", source, "--width", "160mm", "--method", "stack", "--out", out).returncode == 0
    layers = json.loads((out / "layers.json").read_text())
    assert layers["source_box"] == pytest.approx([0, 0, 80, 60])
    assert (layers["width_mm"], layers["height_mm"]) == pytest.approx((160, 120))
    assert [row["order"] for row in layers["layers"]] == [1, 2]
    assert layers["layers"][0]["area_mm2"] == pytest.approx(2400 * 4)
    for row in layers["layers"]:
        assert 'viewBox="0 0 160.0000 120.0000"' in (out / row["file"]).read_text()


def test_split_with_a_lap_and_films_of_ones_own(tmp_path):
    source, films, out = tmp_path / "two.svg", tmp_path / "films.toml", tmp_path / "out"
    source.write_bytes(
        svg('<rect width="40" height="60" fill="#d62828"/><rect x="40" width="40" height="60" fill="#1f57c3"/>')
    )
    films.write_text(
        '[films.r]\nname = "R"\nkind = "smooth"\ncolour = "#d62828"\n'
        '[films.b]\nname = "B"\nkind = "glitter"\ncolour = "#1f57c3"\n'
    )
    done = run("split", source, "--width", "80mm", "--method", "lap", "--lap", "0.5", "--films", films, "--out", out)
    assert done.returncode == 0, done.stderr
    said = json.loads((out / "layers.json").read_text())
    assert [row["film"] for row in said["layers"]] == ["r", "b"]
    assert said["pairs"] == [
        {"under": 1, "over": 2, "method": "lap", "why": "side by side with a lap, as you chose for the job"}
    ]
    assert said["layers"][0]["area_mm2"] == pytest.approx(60 * 40.5)
    assert said["layers"][1]["area_mm2"] == pytest.approx(60 * 40)
    done = run("split", source, "--films", tmp_path / "none.toml", "--out", out)
    assert (done.returncode, "no file" in done.stderr) == (2, True)


def test_weed_says_what_comes_out_of_a_job_or_of_artwork(artwork, tmp_path):
    done = run("weed", artwork, "--json")
    assert done.returncode == 0
    said = json.loads(done.stdout)
    assert [row["counters"] for row in said] == [1, 0]
    assert said[0]["islands"][0]["number"] == 1
    assert "counter" in run("weed", artwork).stdout


def test_nest_answers_in_the_documented_form(tmp_path):
    source = tmp_path / "pieces.svg"
    source.write_bytes(
        svg(
            '<rect id="a" width="60" height="20"/><g transform="translate(5 5)"><circle r="10"/></g>'
            '<path fill="none" stroke="black" d="M0 0h10v10h-10z"/><defs/>',
            'width="100mm" viewBox="0 0 200 200"',
        )
    )
    out = tmp_path / "layout.json"
    done = run(
        "nest",
        source,
        "--sheet",
        "40x30mm",
        "--sheets",
        1,
        "--gap",
        "1mm",
        "--margin",
        "2mm",
        "--turn",
        "0,90",
        "--seconds",
        "0.5",
        "--seed",
        3,
        "--out",
        out,
    )
    assert (done.returncode, done.stderr) == (0, "")
    layout = json.loads(out.read_text())
    (sheet,) = layout["sheets"]
    assert (sheet["width_mm"], sheet["height_mm"]) == (40, 30)
    assert {p["piece"] for p in sheet["placements"]} == {"a", "1", "2"}
    assert set(sheet["placements"][0]) == {"piece", "x_mm", "y_mm", "turn_deg"}
    assert layout["unplaced"] == []
    assert 2 < sheet["used_length_mm"] <= 38


@pytest.mark.parametrize(
    "arguments",
    [
        ("plan", "missing.svg", "--out", "x"),
        ("plan",),
        ("dance",),
        ("plan", "{artwork}", "--blank", "spacesuit", "--out", "x"),
        ("plan", "{artwork}", "--measure", "chest", "--out", "x"),
        ("plan", "{artwork}", "--measure", "chest=9cm", "--out", "x"),
        ("plan", "{artwork}", "--width", "wide", "--out", "x"),
        ("plan", "{artwork}", "--width", "0", "--out", "x"),
        ("plan", "{artwork}", "--mat", "big", "--out", "x"),
        ("plan", "{artwork}", "--seconds", "nan", "--out", "x"),
        ("split", "{artwork}", "--method", "chop", "--out", "x"),
        ("nest", "{artwork}", "--sheet", "0x5", "--out", "x"),
        ("nest", "{artwork}", "--sheet", "50x50", "--turn", "round", "--out", "x"),
        ("nest", "{artwork}", "--sheet", "50x50", "--gap=-1", "--out", "x"),
        ("fit", "{artwork}", "--blank", "kimono"),
        ("fit", "{artwork}", "--place", "moon"),
        ("fit", "{artwork}", "--blank", "cap", "--place", "full-front"),
        ("fit", "{artwork}", "--school", "old"),
        ("fit", "{artwork}", "--sizes", "moon"),
        ("plan", "{artwork}", "--also", "back.svg", "--out", "x"),
        ("plan", "{artwork}", "--sizes", "toddler=many", "--out", "x"),
        ("keep", "x", "--blank", "kimono"),
        ("text", "Moth", "--height", "0", "--out", "x.svg"),
        ("text", "Moth", "--height", "3cm", "--font", "quill", "--out", "x.svg"),
        ("text", "Moth", "--height", "3cm", "--colour", "red", "--out", "x.svg"),
        ("text", "Moth", "--height", "3cm", "--spacing", "99", "--out", "x.svg"),
        ("text", "  ", "--height", "3cm", "--out", "x.svg"),
        ("text", "漢字", "--height", "3cm", "--out", "x.svg"),
        ("inspect", "missing.svg"),
        ("fit", "{artwork}", "--measure", "chest=1/0"),
        ("fit", "{artwork}", "--measure", "chest=10 km"),
        ("fit", "{artwork}", "--measure", "chest=-4cm"),
        ("fit", "{artwork}", "--measure", "chest=0"),
        ("template", "{artwork}", "--out", "x.pdf"),
        ("check", "{artwork}"),
        ("check", "missing.zinnet"),
    ],
)
def test_errors_are_one_sentence_and_exit_2(arguments, artwork):
    done = run(*(argument.format(artwork=artwork) for argument in arguments))
    assert done.returncode == 2
    assert done.stdout == ""
    assert len(done.stderr.strip().splitlines()) == 1
    assert "Traceback" not in done.stderr
    assert "did not expect" not in done.stderr


def test_checks_lists_the_catalogue():
    listed = json.loads(run("checks", "--json").stdout)
    assert {"wrong-cut-side", "off-sheet", "no-film"} <= {row["id"] for row in listed}
    assert "outside-usable-area" in run("checks").stdout


def test_check_tells_by_its_exit_code_whether_a_stop_is_open(tmp_path):
    document = document_of(LANTERN)
    document.save(tmp_path / "good.zinnet")
    document.apply(set_placement("x", from_centre_mm=300.0))
    document.save(tmp_path / "bad.zinnet")
    assert run("check", tmp_path / "good.zinnet").returncode == 0
    done = run("check", tmp_path / "bad.zinnet", "--json")
    assert done.returncode == 1
    assert "outside-usable-area" in [row["id"] for row in json.loads(done.stdout)]


@pytest.mark.usefixtures("qapp")
def test_the_demo_runs_without_a_display(tmp_path):
    done = run("demo", "--out", tmp_path / "demo")
    assert (done.returncode, done.stderr) == (0, "")
    names = {path.name for path in (tmp_path / "demo").iterdir()}
    assert {"plan.json", "fit.png", "measure.png", "split.png", "nest.png", "mat-01-cream.svg"} <= names
    assert "no display" in done.stdout
    for name in WALK_JOBS:
        written = {path.name for path in (tmp_path / "demo" / name).iterdir()}
        assert {"job-sheet.pdf", "quote.pdf", "quote.csv", "to-buy.pdf", "care-tags.pdf", f"{name}.zinnet"} <= written
        assert {".svg", ".plt"} <= {Path(file).suffix for file in written}
    assert (tmp_path / "demo" / "names" / "names.pdf").exists()
    assert (tmp_path / "demo" / "scrap-labels.pdf").exists()


def test_blanks_lists_the_catalogue():
    listed = {row["id"]: row for row in json.loads(run("blanks", "--json").stdout)}
    assert listed["tee"]["measures"]["chest"]["typical_mm"][listed["tee"]["sizes"].index("adult-m")] == 520
    assert "left-chest" in listed["polo"]["places"]
    assert "cap" in run("blanks").stdout


def test_fit_prints_the_proposal_and_the_numbers(artwork):
    said = json.loads(
        run("fit", artwork, "--blank", "tee-adult", "--measure", "chest=21in - 1in", "--school", "inch").stdout
    )
    assert said["blank"]["measures"]["chest"] == {"mm": 508.0, "measured": True}
    assert said["placement"]["below_collar_mm"] == 31.75
    assert said["placement"]["school"] == "inch"
    assert said["proposal"]["range_mm"][0] == pytest.approx(127)
    assert set(said["proposal"]["largest_mm"]) == {"usable", "platen", "mat"}
    assert said["edges_mm"]["left"] == pytest.approx(said["edges_mm"]["right"])
    assert "a tee, adult M" in said["proposal"]["reason"]


def test_template_writes_a_pdf(tmp_path):
    document_of(LANTERN).save(tmp_path / "walk.zinnet")
    done = run("template", tmp_path / "walk.zinnet", "--out", tmp_path / "walk.pdf", "--paper", "letter")
    assert (done.returncode, done.stderr) == (0, "")
    assert (tmp_path / "walk.pdf").read_bytes().startswith(b"%PDF")
    assert run("template", tmp_path / "walk.zinnet", "--out", tmp_path / "x.pdf", "--size", "infant").returncode == 2


def test_a_kept_blank_is_taken_by_its_name(artwork):
    assert run("keep", "my hoodie", "--blank", "hoodie-adult", "--measure", "chest=57.1cm").returncode == 0
    assert "my hoodie" in run("blanks", "--mine").stdout
    said = json.loads(run("fit", artwork, "--blank", "my hoodie", "--measure", "length=70cm").stdout)
    assert said["blank"]["measures"]["chest"] == {"mm": 571.0, "measured": True}
    assert said["blank"]["measures"]["length"]["mm"] == 700


def test_fit_over_all_sizes(artwork):
    said = json.loads(run("fit", artwork, "--sizes", "all").stdout)
    widths = {row["size"]: row["width_mm"] for row in said["sizes"]}
    assert len(widths) == 11
    assert widths["infant"] < widths["youth-m"] <= widths["adult-m"]


def test_plan_of_two_designs_in_two_sizes(artwork, tmp_path):
    out = tmp_path / "two"
    also = f"{artwork}=full-back"
    options = ("--copies", "2", "--sizes", "toddler=3", "--also", also, "--mat", "12x24in", "--seconds", "0.5")
    done = run("plan", artwork, "--out", out, *options)
    assert (done.returncode, done.stderr) == (0, "")
    said = json.loads((out / "plan.json").read_text())
    assert said["sizes"] == [{"size": "adult-m", "copies": 2}, {"size": "toddler", "copies": 3}]
    pieces = [(piece["size"], piece["design"]) for mat in said["mats"] for piece in mat["pieces"]]
    films = len(said["layers"])
    assert pieces.count(("adult-m", 0)) == pieces.count(("adult-m", 1)) == 2 * films
    assert pieces.count(("toddler", 1)) == 3 * films


def test_text_is_written_as_outlines_of_the_height_that_was_asked_for(tmp_path):
    for options, shapes in (((), 8), (("--join",), 3)):
        out = tmp_path / f"{len(options)}.svg"
        done = run("text", "Wrenfield", "--font", "dancing-script", "--height", "1 1/2 in", "--out", out, *options)
        assert (done.returncode, done.stderr) == (0, "")
        said = json.loads(run("inspect", out, "--json").stdout)
        assert said["size_mm"][1] == pytest.approx(38.1, abs=0.05)
        assert said["shapes"] == shapes
    assert run("text", "LANTERN", "--height", "2cm", "--arc", "20cm", "--out", tmp_path / "arc.svg").returncode == 0
    arc = json.loads(run("inspect", tmp_path / "arc.svg", "--json").stdout)
    assert arc["size_mm"][1] > 22


def test_inspect_tells_colours_counts_and_what_was_found(artwork):
    said = json.loads(run("inspect", artwork, "--json").stdout)
    assert [row["colour"] for row in said["colours"]]
    assert said["aspect"] > 0
    assert "findings" in said


@pytest.mark.parametrize(
    ("arguments", "size"),
    [
        (("--width", "200mm"), (200.0, None)),
        (("--box", "200x20mm"), (None, 20.0)),
        (("--box", "60x500mm"), (60.0, None)),
        (("--height", "25mm"), (None, 25.0)),
    ],
)
def test_a_text_is_as_wide_as_tall_or_as_large_as_a_box_asks(arguments, size, tmp_path):
    out = tmp_path / "word.svg"
    assert run("text", "MOTH", "--font", "bebas-neue", *arguments, "--out", out).returncode == 0
    root = ET.parse(out).getroot()
    for name, expected in zip(("width", "height"), size, strict=True):
        if expected is not None:
            assert float(root.get(name).removesuffix("mm")) == pytest.approx(expected, abs=0.05)


def test_a_picture_is_traced_inspected_and_planned_like_any_artwork(tmp_path):
    picture = tmp_path / "moon.png"
    image = Image.new("RGB", (240, 200), "#ffffff")
    draw = ImageDraw.Draw(image)
    draw.ellipse((20, 20, 180, 180), fill="#1d3557")
    draw.rectangle((70, 70, 130, 130), fill="#e4573d")
    image.save(picture)
    done = run("trace", picture, "--width", "120mm", "--out", tmp_path / "moon.svg")
    assert done.stdout.startswith("2 colours: #1d3557, #e4573d")
    root = ET.parse(tmp_path / "moon.svg").getroot()
    assert root.get("width") == "120.0000mm"
    assert len(root) == 2
    said = json.loads(run("inspect", picture, "--json").stdout)
    assert [row["colour"] for row in said["colours"]] == ["#1d3557", "#e4573d"]
    assert run("split", picture, "--out", tmp_path / "layers").returncode == 0
    assert len(list((tmp_path / "layers").glob("*.svg"))) == 2


@pytest.mark.parametrize(
    ("arguments", "colours"),
    [
        (("through", "MOTH", "--width", "200mm", "--shape", "heart"), 3),
        (("name", "Reed", "--width", "200mm", "--outline", "2mm=#112233", "--outline", "3mm=#ffffff"), 3),
        (("alter", "{artwork}", "--step", '{{"kind": "outline", "width_mm": 4}}', "--width", "200mm"), 3),
    ],
)
def test_assistants_and_steps_write_layers_side_by_side_in_mm(arguments, colours, tmp_path, artwork):
    out = tmp_path / "made.svg"
    done = run(*(argument.format(artwork=artwork) for argument in arguments), "--out", out)
    assert done.returncode == 0, done.stderr
    root = ET.parse(out).getroot()
    assert root.get("width") == "200.0000mm"
    assert len(root) == colours


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (("text", "MOTH"), "one of --height, --width and --box"),
        (("text", "MOTH", "--height", "9mm", "--width", "9mm"), "one of --height, --width and --box"),
        (("trace", "{artwork}"), "not a PNG, JPEG or WebP"),
        (("trace", "{artwork}", "--background", "blue"), "not auto, keep or a colour"),
        (("through", "MOTH", "--width", "10mm"), "too narrow"),
        (("through", "MOTH", "--width", "200mm", "--shape", "teapot"), "no shape “teapot”"),
        (("name", "Reed", "--width", "200mm", "--outline", "-2mm"), "not longer than zero"),
        (("alter", "{artwork}", "--step", "x"), "JSON"),
    ],
)
def test_what_can_not_be_made_is_said_in_a_sentence(arguments, says, tmp_path, artwork):
    done = run(*(argument.format(artwork=artwork) for argument in arguments), "--out", tmp_path / "made.svg")
    assert done.returncode == 2
    assert says in done.stderr
    assert len(done.stderr.strip().splitlines()) == 1


def test_inspect_tells_colours_as_drawn_and_small_detail_with_measures(tmp_path):
    source = tmp_path / "thin.svg"
    source.write_bytes(
        svg(
            '<rect width="100" height="60" fill="#f4ead5"/><rect y="70" width="100" height="0.2" fill="#f3e9d4"/>',
            'width="200mm" height="200mm" viewBox="0 0 100 100"',
        )
    )
    said = json.loads(run("inspect", source, "--json").stdout)
    assert [row["colour"] for row in said["colours"]] == ["#f4ead5", "#f3e9d4"]
    (layer,) = said["details"]
    (place,) = layer["places"]
    assert (layer["film"], place["kind"], place["limit_mm"]) == ("cream", "stroke", 0.8)
    assert place["measured_mm"] == pytest.approx(said["width_mm"] / 100 * 0.2, abs=0.05)
