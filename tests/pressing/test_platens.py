"""Where a platen can go, against trying every spot of a grid."""

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from zinnet.base.errors import ZinnetError
from zinnet.blanks.build import build_blank
from zinnet.blanks.catalogue import blank_kinds, read_blank_name
from zinnet.blanks.model import BlankSpec, DrawnKeepOut
from zinnet.machines.platens import platen, platens, widest_under
from zinnet.pressing.platen_spot import is_padded, platen_spot

SMALL = platen("flat-12x10").model_copy(update={"width_mm": 120.0, "height_mm": 90.0})


def panel_with(*boxes, kind="plastic"):
    spots = tuple(DrawnKeepOut(panel="front", kind=kind, left=a, top=b, right=c, bottom=d) for a, b, c, d in boxes)
    return build_blank(BlankSpec(keep_outs=spots)).main


def is_free(x, y, panel, press=SMALL):
    under = shapely.box(
        x - press.width_mm / 2, y - press.height_mm / 2, x + press.width_mm / 2, y + press.height_mm / 2
    )
    hard = [keep_out.region for keep_out in panel.keep_outs if not is_padded(keep_out)]
    return not any(shapely.intersection(under, one).area > 1e-3 for one in hard)


spot = st.tuples(st.floats(-150, 110), st.floats(150, 420), st.floats(8, 60), st.floats(8, 60))


@given(st.lists(spot, min_size=1, max_size=3), st.floats(20, 119), st.floats(20, 89))
def test_a_spot_is_found_where_trying_a_grid_finds_one_and_it_is_free(spots, width, height):
    panel = panel_with(*((x, y, x + w, y + h) for x, y, w, h in spots))
    art = (-width / 2, 300 - height / 2, width / 2, 300 + height / 2)
    found = platen_spot(SMALL, art, panel)
    slack_x, slack_y = (SMALL.width_mm - width) / 2, (SMALL.height_mm - height) / 2
    grid = [(x, 300 + y) for x in np.linspace(-slack_x, slack_x, 23) for y in np.linspace(-slack_y, slack_y, 23)]
    by_trying = any(is_free(x, y, panel) for x, y in grid)
    if found is None:
        assert not by_trying
        return
    x, y = found
    assert abs(x) <= slack_x + 1e-6
    assert abs(y - 300) <= slack_y + 1e-6
    assert is_free(x, y, panel)


def test_without_anything_in_the_way_it_is_over_the_middle():
    assert platen_spot(SMALL, (-20, 280, 20, 320), panel_with()) == pytest.approx((0, 300))


def test_a_pocket_is_filled_with_a_pad_and_a_zip_is_not():
    hoodie = build_blank(read_blank_name("hoodie-adult")).main
    pocket = next(keep_out for keep_out in hoodie.keep_outs if keep_out.raised)
    left, top, right, _ = pocket.region.bounds
    over = (left + 60, top - 20, right - 60, top + 40)
    assert platen_spot(platen("flat-15x15"), over, hoodie) is not None
    zipped = build_blank(read_blank_name("zip-hoodie-adult")).main
    assert platen_spot(platen("flat-15x15"), (-40, 200, 40, 280), zipped) is None


def test_what_is_larger_than_the_platen_has_no_spot():
    assert platen_spot(SMALL, (-100, 200, 100, 250), panel_with()) is None


@given(st.floats(0.1, 8), st.sampled_from(sorted(platens())))
def test_the_widest_under_a_platen_just_fits_upright_or_lying(aspect, name):
    one = platen(name)
    width = widest_under(one, aspect)
    height = width * aspect

    def fits(across, down):
        inner_width, inner_height = one.width_mm - 2 * one.margin_mm, one.height_mm - 2 * one.margin_mm
        upright = across <= inner_width + 1e-6 and down <= inner_height + 1e-6
        lying = down <= inner_width + 1e-6 and across <= inner_height + 1e-6
        return upright or lying

    assert fits(width, height)
    assert not fits(width * 1.01, height * 1.01)


def test_every_blank_names_a_platen_that_there_is():
    for kind in blank_kinds().values():
        assert kind.platen is None or kind.platen in platens()
    with pytest.raises(ZinnetError, match="There is no press"):
        platen("oven")
