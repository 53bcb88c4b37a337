"""Limits of one's own: every finding, lap and proposal reads the same ones."""

import pytest

from tests.helpers import document_of, run_command
from zinnet.base.errors import SettingsError
from zinnet.data.limits import limits, own_limits, usual_limits
from zinnet.job.edits import set_placement
from zinnet.workshop.opening import open_settings, readable_settings
from zinnet.workshop.own_limits import limits_file, read_limits, set_limit

BOX = '<rect width="100" height="60" fill="#f4ead5"/>'


def ids(document):
    return [one.id for one in document.plan.findings]


def with_limits(document, *own):
    document.use_workshop(document.workshop.model_copy(update={"limits": own}))
    return document


def test_a_limit_of_ones_own_is_what_findings_go_by_and_the_usual_one_again_after():
    document = document_of(BOX, set_placement("x", from_centre_mm=8.0))
    assert "off-centre" in ids(document)
    assert "off-centre" not in ids(with_limits(document, ("centre.tolerance_mm", 12.0)))
    assert "off-centre" in ids(with_limits(document))
    assert limits()["centre"]["tolerance_mm"] == usual_limits()["centre.tolerance_mm"]


def test_laps_are_proposed_by_the_same_limits():
    two = '<rect width="60" height="60" fill="#d62828"/><rect x="40" width="60" height="60" fill="#1f57c3"/>'
    document = document_of(two)
    lap = document.plan.garments[0].designs[0].stack.lap_mm
    with_limits(document, ("lap.low_mm", lap + 0.3), ("lap.high_mm", lap + 0.3))
    assert document.plan.garments[0].designs[0].stack.lap_mm == pytest.approx(lap + 0.3)


def test_the_file_is_read_set_and_unset_whole():
    assert read_limits() == ()
    set_limit("centre.tolerance_mm", 4.0)
    set_limit("layers.most_films", 4)
    assert dict(read_limits()) == {"centre.tolerance_mm": 4.0, "layers.most_films": 4.0}
    assert dict(open_settings().limits)["centre.tolerance_mm"] == 4.0
    set_limit("centre.tolerance_mm", None)
    assert dict(read_limits()) == {"layers.most_films": 4.0}


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("[centre]\ntolerance = 3", "there is no limit"),
        ("[centre]\ntolerance_mm = 'wide'", "is a number"),
        ("[centre]\ntolerance_mm = true", "is a number"),
        ("[centre]\ntolerance_mm = 4000", "can't be meant"),
        ("[centre]\ntolerance_mm = nan", "can't be meant"),
        ("[layers]\nmost_films = 2.5", "whole number"),
        ("[mends]\nmost_times = 3", "there is no limit"),
        ("centre = 3", "sections"),
        ("[centre", "can't be read"),
    ],
)
def test_a_file_that_makes_no_sense_is_refused_with_what_and_where(text, said):
    limits_file().parent.mkdir(parents=True, exist_ok=True)
    limits_file().write_text(text)
    with pytest.raises(SettingsError, match=said):
        read_limits()
    own, refused = readable_settings()
    assert "limits" not in own
    assert str(limits_file()) in " ".join(refused)


def test_every_limit_has_a_source_and_can_be_set_by_command():
    listed = run_command("workshop", "limits").stdout.splitlines()
    assert len(listed) == len(usual_limits())
    assert all(len(line.split()) > 3 for line in listed)
    assert "yours 3" in run_command("workshop", "limits", "centre.tolerance_mm", "3").stdout
    assert run_command("workshop", "limits", "centre.tolerance_mm", "3000").returncode != 0
    assert "yours 3" in run_command("workshop", "limits", "centre.tolerance_mm").stdout
    assert "yours" not in run_command("workshop", "limits", "centre.tolerance_mm", "--usual").stdout
    assert own_limits({}, "x") == ()
