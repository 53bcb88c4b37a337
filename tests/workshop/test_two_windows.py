"""Two windows at one workshop: no change is lost, or it is said."""

import threading

import pytest

from zinnet.base.errors import WorkshopError
from zinnet.workshop.stock import Change, Stock, StockItem
from zinnet.workshop.store import WorkshopStore

ROLL = StockItem(film="white", kind="roll", width_mm=305, length_mm=5000, place="tube A")
WINDOWS, CUTS = 3, 12


@pytest.fixture
def two(tmp_path):
    """Return the shelf as two windows see it, with a roll on it."""
    one, other = (Stock(WorkshopStore(tmp_path / "workshop.sqlite")) for _ in range(2))
    one.add([ROLL])
    return one, other


def cut_off(seen, length_mm):
    return Change(
        number=seen.number, before=seen, after=seen.model_copy(update={"length_mm": seen.length_mm - length_mm})
    )


def test_of_two_cuts_planned_on_one_roll_the_second_is_refused(two):
    one, other = two
    seen = one.item(1)
    one.cut("tees", [cut_off(seen, 800)])
    with pytest.raises(WorkshopError, match=r"Film 1 was changed meanwhile \(its length in mm: 5000.0 then, 4200.0"):
        other.cut("caps", [cut_off(seen, 300)])
    assert one.item(1).length_mm == 4200
    assert [job for _, _, job in one.open_cuts()] == ["tees"]


def test_what_is_noted_of_a_roll_does_not_stand_in_the_way_of_a_cut(two):
    one, other = two
    seen = one.item(1)
    other.correct(1, "moved", place="tube B")
    one.cut("tees", [cut_off(seen, 800)])
    assert (one.item(1).length_mm, one.item(1).place) == (4200, "tube B")


@pytest.mark.parametrize("what", [{"length_mm": 400.0}, {"film": "gold"}, {"width_mm": 280.0}, {"turned": True}])
def test_a_correction_and_taking_out_are_refused_where_the_film_is_another_one(two, what):
    one, other = two
    seen = one.item(1)
    other.correct(1, "measured", **what)
    now = one.item(1)
    with pytest.raises(WorkshopError, match="was changed meanwhile"):
        one.correct(1, "measured too", seen=seen, length_mm=4000.0)
    with pytest.raises(WorkshopError, match="was changed meanwhile"):
        one.take_out(1, "used up", seen=seen)
    assert one.item(1) == now


def test_windows_that_cut_at_the_same_time_lose_nothing(two, tmp_path):
    done, refused = [], []

    def window():
        stock = Stock(WorkshopStore(tmp_path / "workshop.sqlite"))
        for _ in range(CUTS):
            seen = stock.item(1)
            try:
                stock.cut("walk", [cut_off(seen, 10)])
            except WorkshopError as error:
                refused.append(str(error))
            else:
                done.append(10)

    windows = [threading.Thread(target=window) for _ in range(WINDOWS)]
    for one in windows:
        one.start()
    for one in windows:
        one.join()
    assert len(done) + len(refused) == WINDOWS * CUTS
    assert two[0].item(1).length_mm == 5000 - sum(done)
    assert len(two[0].open_cuts()) == len(done)
    assert all("was changed meanwhile" in said for said in refused)
