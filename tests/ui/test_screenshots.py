"""Pictures of the window: wholly drawn, and nothing else left beside them."""

from PySide6.QtGui import QImage

from zinnet.demo import demo_document
from zinnet.ui.screenshots import SIZE, picture_stations
from zinnet.ui.theme import NIGHT, use_theme


def test_every_station_is_pictured_once_it_is_wholly_drawn(qtbot, tmp_path):
    first = picture_stations(tmp_path / "first", demo_document())
    again = picture_stations(tmp_path / "again", demo_document())
    use_theme(NIGHT)
    assert [path.name for path in first] == ["measure.png", "fit.png", "split.png", "nest.png"]
    for one, other in zip(first, again, strict=True):
        picture = QImage(str(one))
        assert (picture.width(), picture.height()) == SIZE
        assert picture == QImage(str(other)), f"{one.name} was taken before it had settled"
    assert sorted(path.name for path in (tmp_path / "first").iterdir()) == sorted(path.name for path in first)
