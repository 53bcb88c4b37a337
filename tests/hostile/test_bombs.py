"""Small files that would keep the program busy for ever or fill its memory: what they put together is counted."""

import io
import json
import zipfile

import pytest

from tests.helpers import LANTERN, cases, document_of, nested, svg
from zinnet.artwork.source import artwork_of, source_of
from zinnet.base.errors import ArtworkError, JobFileError, WorkshopError, ZinnetError
from zinnet.job.file import MOST_ARTWORK, packed_job, unpacked_job
from zinnet.layers.split import split_artwork
from zinnet.workshop.store import WorkshopStore
from zinnet.workshop.transfer import import_workshop


def masks(deep, wide):
    """Return masks that each use the next one several times."""
    shown = '<rect width="9" height="9" fill="#fff" mask="url(#m{})"/>'
    found = "".join(f'<mask id="m{k}">{shown.format(k + 1) * wide}</mask>' for k in range(deep))
    return found + shown.format(0)


def clips(count):
    """Return clips in a ring, each of which is clipped by the next one."""
    shape = "<path d='M0 0h90v90h-90z'/>"
    found = "".join(
        f'<clipPath id="c{k}" clip-path="url(#c{(k + 1) % count})">{shape}</clipPath>' for k in range(count)
    )
    return found + '<rect width="50" height="50" fill="red" clip-path="url(#c0)"/>'


def nested_groups(deep, inner):
    return '<g class="a">' * deep + inner + "</g>" * deep


STAR = " ".join(f"{50 + k * 7919 % 50} {50 + k * 104729 % 50}" for k in range(400))
SCRIBBLE = " ".join(f"{k * 7919 % 97 / 10} {k * 104729 % 89 / 10}" for k in range(640))
BOMBS = {
    "masks within masks": masks(12, 3),
    "a mask that uses itself": masks(1, 1).replace("m1", "m0"),
    "clips in a ring": clips(140),
    "descendants of descendants": f"<style>{'.a ' * 9}.b{{fill:red}}</style>"
    + nested_groups(140, '<rect class="c" width="9" height="9" fill="red"/>' * 2000),
    "many rules": f"<style>{'.a:not(.b) .a{fill:blue}' * 4000}</style>"
    + nested_groups(20, '<rect class="a" width="9" height="9"/>' * 900),
    "circles on one another": "".join(
        f'<circle cx="{50 + k / 1e4}" cy="50" r="{10 + k / 1e3}" fill="#{k:06x}"/>' for k in range(1, cases(1200, 4000))
    ),
    "see-through circles": "".join(
        f'<circle cx="{k * 37 % 80}" cy="{k * 61 % 80}" r="30" fill="#{k * 4111:06x}" opacity=".5"/>'
        for k in range(1, cases(500, 900))
    ),
    "a pattern of many, used by many": '<pattern id="p" width="9" height="9">'
    + '<rect width="2" height="2" fill="blue"/>' * cases(800, 2400)
    + "</pattern>"
    + '<rect width="9" height="9" fill="url(#p)"/>' * cases(800, 2400),
    "points of one clip over many shapes": '<clipPath id="c"><path d="M0 0'
    + "".join(f"L{k * 37 % 97} {k * 61 % 89}" for k in range(4000))
    + '"/></clipPath>'
    + '<rect width="90" height="90" fill="red" clip-path="url(#c)"/>' * 2000,
    "stars of strokes": f'<polygon points="{STAR}" fill="none" stroke="red" stroke-width="9"/>' * cases(6, 40),
    "as wide as the world": '<rect width="1e9" height="1e9" fill="red"/><rect x="-1e9" width="1e-9" height="1"/>',
    "a scribble of a stroke": f'<polyline points="{SCRIBBLE}" fill="none" stroke="red" stroke-width="9"/>',
    "circles far beyond what is seen": "".join(
        f'<circle cx="{k}" cy="{k * 1000}" r="{90_000_000 + k * 1e5}" fill="#{k * 4111:06x}"/>' for k in range(120)
    ),
    "dashes of nothing": '<path d="M0 0H90V90" stroke="red" fill="none" stroke-dasharray="1e-9 1e-9"/>',
}


@pytest.mark.parametrize("name", BOMBS)
def test_artwork_that_puts_too_much_together_is_read_or_refused(name):
    refused = ""
    try:
        artwork = artwork_of(source_of("bomb.svg", svg(BOMBS[name])))
        split_artwork(artwork, width_mm=200)
    except ArtworkError as error:
        refused = str(error)
    assert refused == "" or refused.endswith((".", "again."))


def test_curves_far_larger_than_what_is_seen_of_them_are_refused_before_they_are_drawn():
    artwork = artwork_of(source_of("bomb.svg", svg(BOMBS["circles far beyond what is seen"])))
    with pytest.raises(ArtworkError, match=r"\d million points .* far larger than what is seen"):
        split_artwork(artwork, width_mm=200)


def parts_of(data):
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        return {name: archive.read(name) for name in archive.namelist()}


@pytest.fixture(scope="module")
def job():
    document = nested(document_of(LANTERN))
    return parts_of(packed_job(document.job, document.plan.layouts))


def rezipped(parts, **changed):
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in {**parts, **changed}.items():
            archive.writestr(name, data)
    return buffer.getvalue()


def test_artworks_that_no_design_names_are_not_unpacked(job, monkeypatch):
    from zinnet.job import file

    taken = []
    usual = file.zip_entry

    def counted(archive, name, *words, **options):
        taken.append(name)
        return usual(archive, name, *words, **options)

    monkeypatch.setattr(file, "zip_entry", counted)
    others = {f"artwork/original-{k}": b"\0" * 1_000_000 for k in range(2, 41)}
    found, _ = unpacked_job(rezipped(job, **others), "walk.zinnet")
    assert len(found.designs) == 1
    assert sorted(taken) == ["artwork/original", "job.json", "layouts.json"]


def test_artworks_of_more_than_the_limit_in_all_are_refused(job):
    data = json.loads(job["job.json"])
    data["designs"] = data["designs"] * 10
    big = b"\0" * (MOST_ARTWORK // 9)
    others = {f"artwork/original-{k}": big for k in range(2, 11)}
    with pytest.raises(JobFileError, match="holds artwork of more than 120 MB"):
        unpacked_job(rezipped(job, **{"job.json": json.dumps(data)}, **others), "walk.zinnet")


def test_nests_of_too_many_values_are_left_out_and_a_job_of_them_refused(job):
    many = b"[" + b"0," * 3_000_000 + b"0]"
    found, layouts = unpacked_job(rezipped(job, **{"layouts.json": b'{"x": ' + many + b"}"}), "walk.zinnet")
    assert found.designs
    assert layouts == {}
    with pytest.raises(JobFileError, match="values"):
        unpacked_job(rezipped(job, **{"job.json": many}), "walk.zinnet")


def test_a_workshop_of_too_many_values_is_refused(tmp_path):
    many = b'{"revision": "0001", "tables": {"log": [' + b"[]," * 2_000_000 + b"[]]}}"
    store = WorkshopStore(tmp_path / "workshop.sqlite")
    with pytest.raises(WorkshopError, match="values"):
        import_workshop(store, rezipped({}, **{"workshop.json": many}), "walk.zip")


@pytest.mark.parametrize("way", [zipfile.ZIP_BZIP2, zipfile.ZIP_LZMA])
def test_zips_that_are_rarely_packed_are_refused(job, way, tmp_path):
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", way) as archive:
        archive.writestr("job.json", job["job.json"])
        archive.writestr("workshop.json", b"{}")
    with pytest.raises(ZinnetError, match="ordinary ZIP"):
        unpacked_job(buffer.getvalue(), "walk.zinnet")
    with pytest.raises(ZinnetError, match="ordinary ZIP"):
        import_workshop(WorkshopStore(tmp_path / "workshop.sqlite"), buffer.getvalue(), "walk.zip")
