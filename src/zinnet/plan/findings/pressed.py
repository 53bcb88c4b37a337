"""Which garment and which panel a finding of pressing means."""

from zinnet.geometry.region import Region
from zinnet.plan.findings.model import Place
from zinnet.plan.model import Facts
from zinnet.plan.presses import GarmentPress
from zinnet.pressing.pieces import PanelWork, PressPiece


def garment_said(facts: Facts, press: GarmentPress) -> str:
    """Return the garment that is meant as the beginning of a sentence; empty where there is but one."""
    return f"{press.garment.blank.name}: " if len(facts.presses) > 1 else ""


def work_of(press: GarmentPress, piece: PressPiece) -> PanelWork:
    """Return the work of the panel that a piece is pressed on."""
    return next(work for work in press.works if piece in work.pieces)


def place_on(press: GarmentPress, region: Region, piece: PressPiece) -> Place:
    """Return where a region lies on the panel of a piece."""
    panel = work_of(press, piece).panel.id
    return Place("press", region.bounds, panel=panel, size=press.garment.size, design=piece.design)
