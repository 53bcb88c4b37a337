"""Jobs of every object through the commands, from the order to the press, with artwork that is made up.

What is asked of each is common practice, no source, typed here a second time: by what it is pressed, for how long at
which heat, how it is peeled, in how many positions, and what can't be taken back.
"""

import json
from dataclasses import dataclass, field

import pytest

from tests.helpers import run_command, svg

MOTH = '<path fill="{0}" d="M50 20C30 0 0 10 8 40C14 62 40 60 50 44C60 60 86 62 92 40C100 10 70 0 50 20Z"/>'
MOON = '<path fill="{0}" d="M60 5A40 40 0 1 0 60 85A55 55 0 0 1 60 5Z"/>'
LAYERS = MOTH.format("#1d2b53") + '<circle cx="50" cy="38" r="9" fill="#e9a53a"/>'


@dataclass(frozen=True)
class Asked:
    """A job, and what its press plan has to say; heat (degC) and seconds are ranges, no source: no heat."""

    blank: str
    art: str = MOTH.format("#e9a53a")
    words: str | None = None
    make: tuple[str, ...] = ()
    sets: tuple[str, ...] = ()
    rows: str | None = None
    source: str | None = "press"
    seconds: tuple[float, float] | None = None
    heat: tuple[float, float] | None = None
    back: tuple[float, float] | None = None
    peel: tuple[str, ...] = ()
    positions: tuple[int, int] = (1, 1)
    gates: tuple[str, ...] = ()
    settings: tuple[str, ...] = ()
    stops: tuple[str, ...] = field(default=())


TEE = ("--cloth", "cotton", "--dots", "3")
MIXED = ("--cloth", "cotton-polyester", "--dots", "3")
JOBS = {
    "stewards' tees under a clamshell": Asked(
        "tee-adult-l", make=TEE, seconds=(10, 15), heat=(149, 185), peel=("warm",)
    ),
    "stewards' tees with a plate in the hand": Asked(
        "tee-adult-l", make=TEE, sets=("press.platen=plate-10x12",), source="plate", seconds=(30, 30),
        heat=(157, 172), back=(15, 15), peel=("warm",),
    ),
    "a large tee under a small plate": Asked(
        "tee-adult-2xl", make=TEE, sets=("press.platen=plate-5x5", "design.1.width=280mm"), source="plate",
        seconds=(30, 30), heat=(157, 172), back=(15, 15), positions=(4, 9), peel=("warm",),
    ),
    "a sweatshirt with glitter beside smooth film": Asked(
        "sweatshirt-adult-m", LAYERS, make=MIXED, sets=("film.#e9a53a=gold-glitter",), seconds=(30, 30),
        heat=(165, 166.5), back=(15, 15), peel=("warm", "cool"),
    ),
    "the band's hoodies": Asked("hoodie-adult-m", make=MIXED, seconds=(10, 15), heat=(149, 185), peel=("warm",)),
    "hoodies with a zip, on the back": Asked(
        "zip-hoodie-adult-m", make=TEE, seconds=(10, 15), heat=(149, 185), peel=("warm",)
    ),
    "children's tees": Asked("tee-youth-m", make=TEE, seconds=(10, 15), heat=(149, 185), peel=("warm",)),
    "a baby's body": Asked(
        "baby-body", make=TEE, seconds=(10, 15), heat=(149, 185), peel=("warm",), gates=("Pull at every part",)
    ),
    "a name on a fleece blanket": Asked(
        "blanket", words="Wren", make=("--cloth", "fleece", "--dots", "3"),
        sets=("film.#1f57c3=blue", "design.1.place=middle", "press.platen=plate-10x12", "design.1.width=330mm"),
        source="plate", seconds=(30, 30), heat=(149, 170), back=(15, 15), peel=("warm", "cool"), positions=(2, 2),
        gates=("Wash the blanket",),
    ),
    "the drummers' blanket, motif by motif": Asked(
        "blanket", MOTH.format("#4f6b35"), make=("--cloth", "polyester knit", "--dots", "2"),
        sets=("film.#4f6b35=moss-flock", "design.1.width=183mm"), rows="4,3,4,3", seconds=(10, 10), heat=(149, 152),
        peel=("cool",), positions=(6, 14), gates=("Lay paper out first",),
    ),
    "a framed canvas": Asked(
        "canvas", words="Moth", make=("--cloth", "cotton canvas"), source="hand", seconds=(3, 8), heat=(130, 160),
        peel=("warm", "hot"), positions=(1, 12), gates=("Staple it again", "Trim last"), settings=("middle",),
    ),
    "the lantern bearers' caps": Asked(
        "cap", words="REED", make=MIXED, source="hand", seconds=(25, 25), heat=(130, 160), peel=("cold",),
        positions=(1, 4), settings=("middle",),
    ),
    "a bucket hat": Asked(
        "bucket-hat", MOON.format("#f5e04a"), make=TEE, source="cap", gates=("Turn the brim in",), heat=(130, 185),
        seconds=(3, 30), positions=(1, 2),
    ),
    "the marshal's sash": Asked(
        "sash", words="MARSHAL", sets=("film.#1f57c3=soft-coral",), seconds=(8, 10), heat=(138, 150), peel=("warm",),
        gates=("Try the sash on",), stops=("heat-untested",),
    ),
    "place mats": Asked("place-mat", make=TEE, seconds=(10, 15), heat=(149, 185), peel=("warm",)),
    "a banner": Asked(
        "banner", words="Walk", make=("--cloth", "cotton canvas", "--dots", "3"), seconds=(15, 15), heat=(176, 177),
        peel=("warm",), positions=(1, 3),
    ),
    "a stocking with fur": Asked(
        "fur-stocking", sets=("press.platen=plate-6x7",), source="plate", heat=(149, 150), seconds=(10, 30),
        gates=("Brush the fur away",), positions=(1, 2),
    ),
    "a tote of polyester": Asked(
        "tote", make=("--cloth", "polyester", "--dots", "2"), seconds=(10, 10), heat=(148, 150), peel=("cool",)
    ),
    "a gift bag with a name": Asked(
        "gift-bag", words="Ada", source="plate", heat=(148, 170), seconds=(10, 30), positions=(1, 3)
    ),
    "a drawstring bag": Asked("drawstring-bag", make=TEE, seconds=(10, 15), heat=(149, 185), peel=("warm",)),
    "a strip of cloth round a jar": Asked(
        "jar-strip", make=TEE, seconds=(10, 15), heat=(149, 185), peel=("warm",),
        gates=("Cut the strip with its overlap",),
    ),
    "a board set into a frame": Asked(
        "inset-board", LAYERS, source="hand", seconds=(60, 60), heat=(204, 205), positions=(1, 4),
        gates=("Is the board coated?",), settings=("high",),
    ),
    "a mug": Asked("mug", LAYERS, source="round", seconds=(60, 60), heat=(204, 205), gates=("Is it coated?",)),
    "a plate, seen through the glass": Asked("glass-plate", LAYERS, source=None, gates=("Which side touches food?",)),
    "a round pan as a sign": Asked("round-pan", LAYERS, source=None, gates=("Paint, seal, let it dry",)),
    "a decal on a jar": Asked("jar", MOTH.format("#6f8f3a"), source=None),
    "a sign of varnished wood": Asked("wood-sign", LAYERS, source=None, gates=("Varnish, and let it dry",)),
}  # fmt: skip


def told(*words):
    """Run a command that has to work, and return what it printed."""
    done = run_command(*words)
    assert done.returncode == 0, done.stderr
    return done.stdout


@pytest.mark.parametrize("name", JOBS)
def test_a_job_is_pressed_as_its_object_asks(tmp_path, name):
    asked, job = JOBS[name], tmp_path / "job.zinnet"
    told("job", "new", "--blank", asked.blank, "--title", name, *asked.make, "--out", job)
    if asked.words is not None:
        told("job", "add", job, "--text", asked.words, "--colour", "#1f57c3")
    else:
        (tmp_path / "art.svg").write_bytes(svg(asked.art))
        told("job", "add", job, tmp_path / "art.svg")
    if asked.sets:
        told("job", "set", job, *asked.sets)
    if asked.rows is not None:
        told("job", "rows", job, "1", "--counts", asked.rows)
    data = json.loads(told("press", job, "--json"))
    (garment,) = data["garments"]
    steps = garment["steps"]
    presses = [step for step in steps if step["kind"] == "press"]
    assert [step["title"] for step in steps if step["gate"]] == list(asked.gates)
    stops = {one["id"] for one in data["findings"] if one["level"] == "stop"}
    assert stops & {"film-not-for-blank", "plate-does-not-reach", "fabric-limit", "heat-untested"} == set(asked.stops)
    if asked.source is None:
        assert not [step for step in steps if step["heat"]]
        assert [step["kind"] for step in steps].count("lay") >= 1
        return
    assert {panel["heat_source"] for panel in garment["panels"]} == {asked.source}
    fronts = [step["heat"] for step in presses if not step["heat"]["back"]]
    last = next(heat for heat in fronts if heat["kind"] == "full")
    if asked.seconds is not None:
        assert asked.seconds[0] <= last["seconds"] <= asked.seconds[1]
    if asked.heat is not None:
        assert all(asked.heat[0] <= heat["heat_c"] <= asked.heat[1] for heat in fronts)
    backs = [step["heat"]["seconds"] for step in presses if step["heat"]["back"]]
    assert bool(backs) == (asked.back is not None)
    assert all(asked.back[0] <= seconds <= asked.back[1] for seconds in backs)
    peels = {step["peel"] for step in steps if step["kind"] == "peel"}
    assert not asked.peel or peels <= set(asked.peel)
    assert asked.positions[0] <= len(last["positions"]) <= asked.positions[1]
    assert not asked.settings or {heat["setting"] for heat in fronts} == set(asked.settings)


def test_what_is_for_the_day_before_comes_first_with_its_time_and_the_order_begins_a_day_sooner(tmp_path):
    begins = {}
    for cloth in ("fleece", "cotton"):
        job = tmp_path / f"{cloth}.zinnet"
        (tmp_path / "art.svg").write_bytes(svg(MOTH.format("#e9a53a")))
        told("job", "new", "--blank", "blanket", "--cloth", cloth, "--dots", "3", "--out", job)
        told("job", "add", job, tmp_path / "art.svg")
        told("job", "set", job, "order.due=2027-03-12", "design.1.width=180mm", "design.1.place=middle")
        said = told("schedule", job, "--seconds", "0.5")
        assert said.startswith("The day before: wash the blanket (about 12 h).") == (cloth == "fleece")
        assert ("The day before" in told("press", job)) == (cloth == "fleece")
        begins[cloth] = json.loads(told("order", job, "--json"))["begin"]
    assert begins["fleece"] < begins["cotton"]
