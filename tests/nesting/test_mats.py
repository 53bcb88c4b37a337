"""Mats and machines: those that ship, and the user's own."""

import pytest

from zinnet.base.errors import SettingsError
from zinnet.machines.cutters import machines_file, read_machines, room
from zinnet.nesting.mat_sheets import sheet_on

OWN = """
[mats.long]
name = "my long mat"
width_mm = 300
height_mm = 900
margin_mm = 8

[machines.mine]
name = "my machine"
mats = ["long", "12x12in"]
"""


def write(text):
    machines_file().parent.mkdir(parents=True, exist_ok=True)
    machines_file().write_text(text, encoding="utf-8")


def test_every_machine_takes_mats_that_there_are_and_every_mat_has_a_machine():
    taken = {name for machine in dict(read_machines().cutters).values() for name in machine.mats}
    assert taken == set(dict(read_machines().mats))
    assert all(min(mat.inner) > 0 for mat in dict(read_machines().mats).values())
    assert room().test_cut_mm > 0


def test_a_roll_fed_without_mat_is_cut_up_to_the_machines_length():
    roll = sheet_on(read_machines().mat("roll-12in"))
    assert (roll.kind, roll.copies) == ("roll", None)
    assert roll.width_mm > 3000
    assert sheet_on(read_machines().mat("12x24in")).kind == "mat"


def test_own_mats_are_taken_beside_those_that_ship():
    write(OWN)
    assert read_machines().mat("long").height_mm == 900
    assert "12x12in" in dict(read_machines().mats)
    assert dict(read_machines().cutters)["mine"].mats == ("long", "12x12in")


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("[mats.x]\nname = 'x'\nwidth_mm = -3\nheight_mm = 4\nmargin_mm = 0", "width_mm"),
        ("[mats.x]\nname = 'x'\nwidth_mm = 10\nheight_mm = 40\nmargin_mm = 6", "margins"),
        ("[machines.x]\nname = 'x'\nmats = ['nowhere']", "nowhere"),
        ("mats = [", "can't be read"),
        ("mats = 3", "can't be read"),
        ("[mats.x]\nname = 'x'\nwidth_mm = 'wide'\nheight_mm = 4\nmargin_mm = 0", "width_mm"),
    ],
)
def test_a_broken_file_is_said_with_its_place(text, said):
    write(text)
    with pytest.raises(SettingsError, match=said):
        read_machines()
