"""Films, presses and machines of one's own are handed on as TOML files; a film carries its roll, price and pattern."""

import base64
import io
import tomllib

import numpy as np
import pytest
from PIL import Image

from zinnet.base.errors import SettingsError, ZinnetError
from zinnet.films.own import films_in_stock
from zinnet.workshop.own_files import take_own, write_own
from zinnet.workshop.own_pattern import LONGEST_PX, pattern_picture
from zinnet.workshop.own_things import keep_film, keep_press, own_things

DOTS = b"[films.reed-dots]\nname = 'Reed dots'\nkind = 'patterned'\ncolour = '#335544'\nroll_mm = 305\n"


def picture(kind="PNG", size=(600, 300), fill=(200, 40, 10)):
    buffer = io.BytesIO()
    Image.new("RGB", size, fill).save(buffer, kind)
    return buffer.getvalue()


def test_everything_of_ones_own_goes_out_and_comes_back_the_same(tmp_path):
    out = tmp_path / "handed on"
    out.mkdir()
    keep_film("Harbour blue", "smooth", "#113355", sold={"roll_mm": 305.0, "price_m2": 21.5}, most_heat_s=20.0)
    keep_press(
        "Garden plate", heat_source="plate", width_mm=228.0, height_mm=228.0, margin_mm=4.0, heat_c=(100.0, 200.0)
    )
    before = own_things()
    written = write_own(out)
    assert sorted(path.name for path in written) == ["films.toml", "presses.toml"]
    for path in (tmp_path / "xdg_config_home").rglob("*.toml"):
        path.unlink()
    taken = {thing: ids for path in written for thing, ids in take_own(path).items()}
    assert taken == {"film": ("harbour-blue",), "press": ("garden-plate",)}
    assert own_things() == before


def test_what_is_taken_lies_beside_what_is_here_and_takes_the_place_of_the_same_id(tmp_path):
    keep_film("Harbour blue", "smooth", "#113355")
    keep_film("Reed dots", "smooth", "#ffffff")
    path = tmp_path / "friend.toml"
    path.write_bytes(DOTS)
    take_own(path)
    films = {film.id: film for film in films_in_stock()}
    assert films["harbour-blue"].colour == "#113355"
    assert (films["reed-dots"].kind, films["reed-dots"].roll_mm) == ("patterned", 305)


@pytest.mark.parametrize(
    "data",
    [
        b"",
        b"[blades.x]\nname = 'x'\n",
        b"films = 3\n",
        b"[films]\nx = 1\n",
        b"[films.x]\nname = 'x'\nkind = 'nothing'\ncolour = '#000000'\n",
        b"[films.x]\nname = 'x'\nkind = 'smooth'\ncolour = 'red'\n",
        b"[films.x]\nname = 'x'\nkind = 'smooth'\ncolour = '#000000'\nroll_mm = -3\n",
        b"[films.x]\nname = 'x'\nkind = 'smooth'\ncolour = '#000000'\n[platens.y]\nname = 'y'\n",
        b"\xff\xfe\x00",
    ],
)
def test_a_file_that_makes_no_sense_is_refused_and_nothing_is_taken(tmp_path, data):
    path = tmp_path / "friend.toml"
    path.write_bytes(data)
    with pytest.raises(SettingsError) as refused:
        take_own(path)
    assert "friend.toml" in str(refused.value)
    assert not any(own_things().values())


def test_a_folder_that_can_not_be_made_is_said(tmp_path):
    keep_film("Harbour blue", "smooth", "#113355")
    (tmp_path / "file").write_text("")
    with pytest.raises(SettingsError, match="can't be made"):
        write_own(tmp_path / "file" / "folder")


def test_there_is_nothing_to_hand_on_before_there_is_anything(tmp_path):
    with pytest.raises(SettingsError, match="nothing of your own yet"):
        write_own(tmp_path)


@pytest.mark.parametrize("kind", ["PNG", "JPEG", "WEBP"])
def test_a_pattern_is_shrunk_and_its_mean_colour_told(kind):
    found = pattern_picture(picture(kind), "dots")
    shrunk = Image.open(io.BytesIO(base64.b64decode(found.picture)))
    assert shrunk.size == (LONGEST_PX, LONGEST_PX // 2)
    mean = [int(found.colour[at : at + 2], 16) for at in (1, 3, 5)]
    assert np.abs(np.array(mean) - (200, 40, 10)).max() <= 3
    assert len(found.picture) < 50_000


@pytest.mark.parametrize("data", [b"", b"moon", picture()[:60], b"<svg/>"])
def test_what_is_no_picture_is_refused(data):
    with pytest.raises(ZinnetError, match="dots"):
        pattern_picture(data, "dots")


def test_the_pattern_stands_in_the_films_own_row(tmp_path):
    found = pattern_picture(picture(), "dots")
    keep_film("Dots", "patterned", found.colour, sold={"picture": found.picture, "picture_mm": 80.0})
    (path,) = write_own(tmp_path)
    assert tomllib.loads(path.read_text())["films"]["dots"]["picture_mm"] == 80.0
    film = next(film for film in films_in_stock() if film.id == "dots")
    assert (film.picture, film.picture_mm) == (found.picture, 80.0)
