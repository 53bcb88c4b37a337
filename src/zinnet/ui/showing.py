"""The way to what a finding speaks of: the station, the page, the size, the layer and the place."""

from typing import TYPE_CHECKING, Protocol, cast

if TYPE_CHECKING:
    from collections.abc import Mapping

    from zinnet.plan.findings.model import Finding, Place
    from zinnet.ui.cut.control import CutterControl
    from zinnet.ui.session import Session
    from zinnet.ui.stations.nest import NestStation
    from zinnet.ui.stations.paged import PagedStation
    from zinnet.ui.stations.split import SplitStation
    from zinnet.ui.table import TableView

NAMES = ("name-too-long", "name-twice", "name-without-size")
"""Findings about the list of names."""
PAGE_OF = {
    "loading-side": "loading",
    "settings-changed": "loading",
    "no-test-cut": "trial",
    "stray-film": "loading",
    "gate-open": "steps",
    "fabric-limit": "recipes",
    "heat-untested": "hem",
    "plate-does-not-reach": "places",
    "no-recipe": "recipes",
    "platen-smaller": "places",
    "platen-edge-on-piece": "places",
    "bare-film": "steps",
    "carrier-overlap": "steps",
    "shrink-misfit": "recipes",
    "too-much-heat": "recipes",
    "peel-mixed": "recipes",
    "too-fresh": "timeline",
}
"""The page of its station on which a finding of Cut or of Press is seen."""


class Shown(Protocol):
    """The window, as a finding is shown in it."""

    session: "Session"

    @property
    def stations(self) -> "Mapping[str, TableView]":
        """Every station."""

    @property
    def cutter(self) -> "CutterControl":
        """The cutter."""

    def go_to(self, station: str) -> None:
        """Bring a station to the table."""

    def open_page(self, page: str) -> None:
        """Show a page that covers the table."""


def show_finding(window: Shown, finding: "Finding") -> None:
    """Bring what a finding speaks of to the table, and frame it."""
    place, station = finding.place, finding.station
    if finding.id in NAMES:
        window.open_page("names")
        return
    window.go_to(station)
    view = window.stations[station]
    view.shown_box = None
    if place is not None and (place.panel is not None or place.size is not None):
        window.session.selection.look_at(size=place.size, design=place.design, panel=place.panel)
    if finding.id in PAGE_OF:
        cast("PagedStation", view).show_page(PAGE_OF[finding.id])
    if station == "cut" and place is not None and place.mat is not None:
        _choose_mat(window, place.mat)
    elif place is not None:
        _frame(window, view, place)
    view.update()


def _choose_mat(window: Shown, number: int) -> None:
    load = next((one for one in window.cutter.loads if number in [mat.number for mat in one.mats]), None)
    if load is not None:
        window.cutter.choose(load)


def _frame(window: Shown, view: "TableView", place: "Place") -> None:
    """Frame a place on the table, so that all of it is seen."""
    if place.mat is not None:
        nest = cast("NestStation", window.stations["nest"])
        nest.show_page("mats")
        nest.show_mat_place(place.mat, place.box)
        return
    if place.view == "split":
        window.session.selection.look_at(design=place.design)
        cast("SplitStation", window.stations["split"]).show_page("thickness")
    view.shown_box = place.box
    view.bring_into_view(place.box)
