"""A picture on a blank that is printed stays a picture: read back from the PDF by another program, dot by dot."""

import io

import numpy as np
import pypdfium2
import pytest
from PIL import Image

from tests.helpers import document_of, nested, run_command
from zinnet.artwork.source import source_of
from zinnet.bench.document import Document
from zinnet.blanks.catalogue import read_blank_name
from zinnet.geometry.transform import apply
from zinnet.job.edits import add_source, add_step, choose_blank, set_measure, set_placement, set_recipe
from zinnet.job.keys import set_key
from zinnet.output.cut_files import write_cut_files
from zinnet.plan.printed import printed_pieces
from zinnet.steps.model import Flip
from zinnet.workshop.model import standard_workshop

DOTS = 6
"""How many dots a mm the PDF is rendered with."""


def gradient(wide=162, high=218, alpha=False):
    """Return a picture that no tracing could keep: every pixel another colour, and no symmetry in it."""
    x, y = np.meshgrid(np.linspace(0, 1, wide), np.linspace(0, 1, high))
    channels = [60 + 180 * x, 40 + 200 * y, 230 - 150 * x * y]
    if alpha:
        channels.append(255.0 * ((x - 0.5) ** 2 + (y - 0.5) ** 2 < 0.22))
    return np.stack(channels, axis=2).round().astype(np.uint8)


def file_of(pixels, kind="PNG", **how):
    buffer = io.BytesIO()
    Image.fromarray(pixels).save(buffer, kind, **how)
    return buffer.getvalue()


def board_with(data, *edits, name="photo.png", width=81.0):
    """Return the job of a coated board whose inset is 81 x 109 mm, with a picture on it."""
    document = Document(standard_workshop())
    for edit in (
        choose_blank(read_blank_name("inset-board")),
        add_source(name, source_of(name, data)),
        set_measure("inset_width", 81.0),
        set_measure("inset_height", 109.0),
        set_placement("x", width_mm=width),
        *edits,
    ):
        document.apply(edit)
    return document


def page_of(document, folder):
    (path,) = write_cut_files(nested(document).plan, folder, ("pdf",))
    page = pypdfium2.PdfDocument(path)[0]
    return np.asarray(page.render(scale=DOTS * 25.4 / 72).to_pil().convert("RGB")).astype(float)


def at_mm(page, x, y):
    return page[int(y * DOTS), int(x * DOTS)]


def on_page(document):
    """Return the matrix from pixels of the picture to the page, built from the chain of its one piece."""
    (load,) = document.plan.loads
    (trim,), (mat,) = load.trims, load.mats
    (placed,) = mat.layout.placed
    part = mat.nest.part(placed.piece)
    x, y = load.stuck_at(trim)
    split = document.plan.garments[0].designs[0].split
    return np.array([[1, 0, x], [0, 1, y], [0, 0, 1]]) @ placed.matrix @ part.to_cut @ split.to_mm


@pytest.mark.parametrize("kind", ["PNG", "JPEG", "WEBP"])
def test_the_print_has_the_picture_itself_mirrored_at_life_size(tmp_path, kind):
    pixels = gradient()
    data = file_of(pixels, kind, **({} if kind == "PNG" else {"quality": 95}))
    document = board_with(data, name=f"photo.{kind.lower()}")
    assert [len(design.split.layers) for design in document.plan.garments[0].designs] == [1]
    assert not document.plan.open_stops
    page = page_of(document, tmp_path)
    matrix = on_page(document)
    assert np.linalg.det(matrix) < 0, "it is pressed face down"
    assert abs(np.linalg.det(matrix)) ** 0.5 * 162 == pytest.approx(81, abs=0.01)
    for column, row in [(10, 10), (150, 12), (80, 100), (20, 205), (155, 210)]:
        x, y = apply(matrix, np.array([[column + 0.5, row + 0.5]]))[0]
        assert at_mm(page, x, y) == pytest.approx(pixels[row, column].astype(float), abs=8)
    (left, top), (right, bottom) = sorted(apply(matrix, np.array([[0.0, 0.0], [162.0, 218.0]])).tolist())
    beyond = at_mm(page, left - 1, (top + bottom) / 2)
    edge = at_mm(page, left + 1, (top + bottom) / 2)
    assert beyond == pytest.approx(edge, abs=10), "the bleed goes on as the picture ends"
    assert at_mm(page, left - 2.3, (top + bottom) / 2) == pytest.approx([255, 255, 255], abs=2)
    assert right - left == pytest.approx(81, abs=0.01) or bottom - top != pytest.approx(81, abs=0.01)


def test_a_picture_that_lies_on_its_side_in_its_file_is_printed_upright(tmp_path):
    """Exif 2.3, tag 274: orientation 6 is turned a quarter to the right when shown."""
    upright = gradient()
    exif = Image.Exif()
    exif[274] = 6
    data = file_of(np.rot90(upright), "JPEG", quality=95, exif=exif)
    document = board_with(data, name="photo.jpg")
    page, matrix = page_of(document, tmp_path), on_page(document)
    for column, row in [(10, 10), (150, 12), (20, 205)]:
        x, y = apply(matrix, np.array([[column + 0.5, row + 0.5]]))[0]
        assert at_mm(page, x, y) == pytest.approx(upright[row, column].astype(float), abs=8)


def test_of_a_picture_with_clear_parts_only_what_is_seen_is_a_piece(tmp_path):
    document = board_with(file_of(gradient(alpha=True)))
    (layer,) = document.plan.garments[0].designs[0].split.layers
    assert layer.region.area == pytest.approx(np.pi * 0.22 * layer.region.envelope.area / (4 * 0.22), rel=0.02)
    page = page_of(document, tmp_path)
    x, y = apply(on_page(document), np.array([[2.0, 2.0]]))[0]
    assert at_mm(page, x, y) == pytest.approx([255, 255, 255], abs=2), "a clear corner"


def test_words_on_a_picture_are_printed_over_it():
    document = board_with(file_of(gradient()))
    document.apply(set_key(document.job, "title", "Lantern board"))
    words = document_of('<rect width="100" height="40" fill="#123456"/>').job.designs[0].source
    document.apply(add_source("bar", words))
    document.apply(set_placement("x", design=1, width_mm=40.0))
    (load,) = nested(document).plan.loads
    ((piece, inks),) = printed_pieces(document.plan, load)
    assert [bool(ink.picture) for ink in inks] == [False, False, True]
    bar = next(ink for ink in inks if ink.colour == "#123456")
    picture = inks[-1]
    assert picture.region.area == pytest.approx(piece.area - bar.region.area, rel=1e-3)
    assert picture.region.intersection(bar.region).area < 0.1


def test_a_picture_is_traced_where_steps_need_outlines_and_where_one_says_so():
    data = file_of(np.kron(gradient(4, 6), np.ones((12, 12, 1), np.uint8)))
    whole = board_with(data)
    assert whole.plan.garments[0].designs[0].artwork.whole_picture == data
    for edit in (add_step(Flip(), 0), set_key(whole.job, "design.1.picture", "traced")):
        traced = board_with(data, edit)
        assert not traced.plan.garments[0].designs[0].artwork.whole_picture
        assert len(traced.plan.garments[0].designs[0].split.layers) > 1
    again = board_with(data, set_key(whole.job, "design.1.picture", ""))
    assert again.plan.garments[0].designs[0].artwork.whole_picture


def test_a_picture_that_is_taken_whole_and_cut_is_a_stop_with_ways_that_hold():
    """On a polyester tee heat film is the usual one; a picture taken whole needs a print, or is traced."""
    document = Document(standard_workshop())
    document.apply(
        add_source(
            "photo.png",
            source_of(
                "photo.png",
                file_of(np.kron(np.eye(4)[:, :, None] * [150, 60, 20] + 40, np.ones((15, 15, 1))).astype(np.uint8)),
            ),
        )
    )
    document.apply(set_key(document.job, "blank.cloth", "polyester"))
    document.apply(set_recipe("picture", "trace", 0, taken="whole", drop_background=False))
    (finding,) = [one for one in document.plan.findings if one.id == "picture-not-traced"]
    assert finding.is_open_stop
    assert finding.mend.name == "trace it"
    for way in (finding.mend, *finding.also):
        mended = Document(standard_workshop(), way.change(document.job))
        assert not [one for one in mended.plan.findings if one.id == "picture-not-traced"]
    assert len(finding.also) == 1


def test_a_photo_of_very_many_colours_is_taken_by_command_where_it_is_printed(tmp_path):
    """Traced, its colours would keep the program busy for longer than the watch over strangers' files allows."""
    (tmp_path / "photo.jpg").write_bytes(file_of(gradient(1600, 2100), "JPEG"))
    job = tmp_path / "board.zinnet"
    assert run_command("job", "new", "--blank", "inset-board", "--out", job).returncode == 0
    done = run_command("job", "add", job, tmp_path / "photo.jpg")
    assert (done.returncode, done.stdout.strip()) == (0, "1"), done.stderr
    document = Document.open(job, standard_workshop())
    assert document.plan.garments[0].designs[0].artwork.whole_picture
