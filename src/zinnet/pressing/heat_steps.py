"""The steps of films that are pressed with heat on one panel, derived from what lies there and how."""

import math
from collections.abc import Iterator, Sequence
from typing import Any

import shapely

from zinnet.base.units import Degrees, write_temperature
from zinnet.geometry.region import EMPTY, Region, common
from zinnet.machines.platens import HeatSetting
from zinnet.pressing.applied_recipe import PressKind, PressSetting
from zinnet.pressing.at_once import groups_of, trim_mm, why_later
from zinnet.pressing.heat_values import middle, press_numbers
from zinnet.pressing.pieces import PanelWork, PressPiece, one_carrier_over
from zinnet.pressing.press_area import Spread
from zinnet.pressing.recipes import PEELS, Peel
from zinnet.pressing.steps import Heat, Place, PressStep, StepKind

NOT_SLID = "Press straight down, lift straight up: never slide it, the layers would move."
MOVED = "Keep it moving a little, or it leaves a mark; do not push the film."
COVERS = {"carriers": None, "parchment": "parchment", "sheet": "a PTFE cover sheet", "none": None}
PEELED: dict[Peel, str] = {
    "hot": "at once, while it is hot",
    "warm": "while it is warm",
    "cool": "when it is cool to the touch",
    "cold": "when it is quite cold",
}
LASTING: tuple[PressKind, ...] = ("full", "back")
"""The presses that every piece gets."""
SHRUNK = "Every full press shrinks film a little: the next layer may no longer fit."


class PanelSteps:
    """Derives the steps of one panel, and keeps track of what lies there: carriers that are on, film that is bare."""

    def __init__(self, work: PanelWork, degrees: Degrees) -> None:
        self.work, self.degrees = work, degrees
        self.numbers = press_numbers()
        self.carried: list[str] = []
        self.bare: list[str] = []

    def steps(self) -> Iterator[PressStep]:
        """Yield the steps in their order."""
        pieces = self.work.pieces
        yield from self._prepare()
        groups = groups_of(pieces, together=self.work.spec.together)
        for index, group in enumerate(groups):
            is_last = index == len(groups) - 1
            yield from self._lay(group, first=index == 0)
            alone = why_later(group, groups[index - 1]) if index and self.work.spec.together is None else None
            yield from self._press_group(group, is_last=is_last, alone=alone)
        yield from self._after(pieces)

    # before the first layer

    def _prepare(self) -> Iterator[PressStep]:
        hands, procedure = self.numbers.hands, self.work.procedure
        if self.work.is_cloth:
            said = ["Roll lint, dust and threads off."]
            yield self._step("lint", f"Lint-roll the {self._side}", said, hands.lint_s, "hands")
        ready = [*procedure.hold, *procedure.clear]
        if ready:
            yield self._step("ready", f"Lay the {self._side} ready", ready, hands.load_s, "hands")
        yield self._heat_step(
            "preheat",
            groups_of(self.work.pieces, together=self.work.spec.together)[0],
            ["Drives out moisture and wrinkles, before anything is laid."],
            title=f"Preheat the bare {'cloth' if self.work.is_cloth else procedure.noun}",
        )
        centred = self.work.is_centred
        said = list(procedure.centre if centred else procedure.aside)
        yield self._step("crease", "Find the centre" if centred else "Find the place", said, hands.crease_s, "hands")

    @property
    def _side(self) -> str:
        """What lies on the press: the object, and which side of it where others are worked on too."""
        noun = self.work.procedure.noun
        return f"{noun}, {self.work.panel.name.lower()}" if self.work.among_others else noun

    # a layer

    def _lay(self, group: Sequence[PressPiece], *, first: bool) -> Iterator[PressStep]:
        hands = self.numbers.hands
        names = _listed(group)
        creased = self.work.is_centred and any("crease" in line for line in self.work.procedure.centre)
        said = ["Match the creases, then by its four lengths." if creased else "By its four lengths."]
        met = self._met(group)
        if any(self._lies_on(piece) for piece in group):
            said = ["By its four lengths, onto the film below: look through the carrier, straight from above."]
        elif met:
            said = [f"By its four lengths; it meets {_listed(met)}: no gap between them, seen straight from above."]
        elif not first:
            said = ["By its four lengths; it touches nothing that is pressed."]
        said.append(self._trimmed(group))
        self.carried += [piece.key for piece in group]
        keys = tuple(piece.key for piece in group)
        seconds = hands.lay_s * sum(len(piece.each) for piece in group)
        yield self._step("lay", f"Lay {names}", said, seconds, "hands", pieces=keys)
        if first:
            yield self._step(
                "look",
                "Step back and look",
                [
                    "Its middle on the crease? Level?" if creased else "Level?",
                    f"{'Collars differ: the' if self.work.procedure.collar else 'The'} eye has the last word.",
                ],
                hands.look_s,
                "hands",
                pieces=keys,
                wrong="Once it is pressed it can't be moved.",
            )

    def _lies_on(self, piece: PressPiece) -> bool:
        """Tell whether a piece lies on film below, not only with its edge over it."""
        below = [other.region for other in self.work.pieces if other.key in piece.on]
        covered = [float(common(piece.region, one).area) for one in below]
        return sum(covered) > float(piece.region.area) / 2

    def _met(self, group: Sequence[PressPiece]) -> list[PressPiece]:
        """Return what lies there already and meets what is laid, edge to edge or within a lap."""
        lying, seen = [self.work.piece(key) for key in self.bare], self.numbers.shrink.seen_mm
        return [one for one in lying if any(shapely.dwithin(one.region, piece.region, seen) for piece in group)]

    def _trimmed(self, group: Sequence[PressPiece]) -> str:
        own = self.work.spec.trim_mm
        trim = trim_mm(group, own)
        near = math.floor(trim * 10 + 1e-6) / 10
        if trim < (own or self.numbers.trim.carrier_mm):
            return f"Trim the carriers to {near:g} mm, half the gap, so that none lies on another."
        if own is not None:
            return f"Trim the carriers to {near:g} mm, so that none lies on other film or on another."
        return "Trim its carrier close, so that it lies on no other film."

    def _press_group(
        self, group: Sequence[PressPiece], *, is_last: bool, alone: tuple[PressPiece, str] | None
    ) -> Iterator[PressStep]:
        full = self.work.spec.school == "full"
        kind: PressKind = "full" if is_last else "lower" if full else "tack"
        names = _listed(group)
        title = {"tack": f"Tack {names}", "lower": f"Press {names}", "full": f"Press {names}"}[kind]
        said = [
            "Only until it holds; one full press follows over everything."
            if kind == "tack"
            else "The full press over everything."
            if is_last and len(self.work.pieces) > len(group)
            else "The full press."
        ]
        if alone is not None:
            other, why = alone
            said.append(f"Not at once with {other.name}: {why}.")
        wrong = SHRUNK if kind == "lower" else None
        yield from self._covered(group if kind != "full" else self.work.pieces)
        yield self._heat_step(kind, group, said, title=title, wrong=wrong)
        covered = [piece for piece in group if piece.setting is not None and piece.setting.covered_s]
        if covered:
            names = _listed(covered)
            said = [f"Once more, with {COVERS[self.work.spec.cover] or 'parchment'} over the carrier."]
            yield self._heat_step("covered", covered, said, title=f"Press {names} again, covered")
        yield from self._peel(group)

    def _covered(self, group: Sequence[PressPiece]) -> Iterator[PressStep]:
        """Yield the step that covers what is bare, where something is."""
        said = self._cover()
        if self.bare and said is not None:
            names = _listed([self.work.piece(key) for key in self.bare])
            yield self._step(
                "cover",
                f"Cover {names}",
                [f"Lay {said} over it, flat, without a fold.", "Bare film never meets the platen."],
                self.numbers.hands.cover_s,
                "hands",
                pieces=tuple(self.bare),
            )

    def _cover(self) -> str | None:
        """Return in words what covers the bare film: one carrier for all where it is large enough."""
        bare = [self.work.piece(key) for key in self.bare]
        if self.work.spec.cover == "carriers":
            whole = one_carrier_over(bare)
            if len(bare) > 1 and whole is not None:
                return f"the used carrier of {whole.film.name}, which is large enough for all"
            names = " and ".join(dict.fromkeys(piece.film.name for piece in bare))
            return f"the used carrier{'s' * (len(bare) > 1)} of {names}" if bare else None
        return COVERS[self.work.spec.cover]

    def _peel(self, group: Sequence[PressPiece]) -> Iterator[PressStep]:
        """Yield waiting and peeling, the films that are peeled hottest first."""
        waited = 0.0
        by_peel: dict[Peel, list[PressPiece]] = {}
        for piece in group:
            by_peel.setdefault(_peel_of(piece), []).append(piece)
        for peel in sorted(by_peel, key=PEELS.index):
            some = by_peel[peel]
            yield from self._wait(some, less=waited)
            waited = max(waited, *(_wait_of(piece) for piece in some))
            keys = tuple(piece.key for piece in some)
            self.carried = [key for key in self.carried if key not in keys]
            self.bare += keys
            yield self._step(
                "peel",
                f"Peel {peel}: {_listed(some)}",
                [f"Slowly and flat, {PEELED[peel]}; lift a corner first.", "Keep the carrier: it makes a good cover."],
                self.numbers.hands.peel_s * len(some),
                "hands",
                pieces=keys,
                peel=peel,
                wrong="Film that comes up with the carrier tears, or leaves a bubble.",
                lifts=f"Lay it back, cover, and press {self.numbers.times.lifts_s:.0f} s more.",
            )

    def _wait(self, group: Sequence[PressPiece], less: float = 0.0) -> Iterator[PressStep]:
        seconds = max(_wait_of(piece) for piece in group) - less
        if seconds <= 0:
            return
        peel = max((_peel_of(piece) for piece in group), key=PEELS.index)
        where = "under a cold metal plate or a stone" if self.work.spec.cold_plate else "flat on a cool table"
        yield self._step(
            "wait",
            f"Let it cool {seconds:.0f} s",
            [f"Lay it {where}, carrier on.", f"Peel {PEELED[peel]}."],
            seconds,
            "cooling",
            pieces=tuple(piece.key for piece in group),
            peel=peel,
        )

    # after the last layer

    def _after(self, pieces: Sequence[PressPiece]) -> Iterator[PressStep]:
        back = [piece.setting.back_s for piece in pieces if piece.setting is not None and piece.setting.back_s]
        if back and self.work.procedure.turned:
            said = ["Turn it over; parchment lies under the film, so that nothing sticks."]
            if self.work.elsewhere:
                said.append("Film on this side would be bare: lay the cover sheet over it.")
            hands = self.numbers.hands
            yield self._step("turn over", "Turn it over", said, hands.turn_s, "hands")
            yield self._heat_step("back", pieces, ["From the back."], title="Press from the back")
        wait = max((_wait_of(piece) for piece in pieces), default=0.0)
        if back and wait:
            yield self._step("cool", "Let it cool flat", ["Do not fold film on film."], wait, "cooling")

    # how a step is made

    def _step(
        self, kind: StepKind, title: str, lines: Sequence[str], seconds: float, place: Place, **fields: Any
    ) -> PressStep:
        return PressStep(
            kind=kind,
            title=title,
            words=tuple(lines),
            panel=self.work.panel.id,
            base_s=seconds,
            place=place,
            **fields,
        )

    def _heat_step(
        self,
        kind: PressKind,
        group: Sequence[PressPiece],
        lines: Sequence[str],
        *,
        title: str,
        wrong: str | None = None,
    ) -> PressStep:
        about = self.work.pieces if kind in ("preheat", "full", "back") else group
        films = [(one, self._bears(piece)) for piece in about for one in piece.each]
        lying = [piece.region for piece in self.work.pieces if piece.key in self.bare and piece not in group]
        heat = self._heat(kind, group, self._spread(films, kind, lying))
        touched = self._touched(heat) if kind != "preheat" else ()
        if kind == "back":
            bare, cover_said = self.work.elsewhere, self._elsewhere_cover()
            carried: tuple[str, ...] = ()
        else:
            bare = tuple(key for key in touched if key in self.bare)
            carried = tuple(key for key in touched if key in self.carried)
            cover_said = self._cover() if bare else None
        said = [self._heat_line(heat), *lines, MOVED if heat.moving else NOT_SLID]
        if cover_said is not None:
            said.insert(1, f"Covered by {cover_said}.")
        return self._step(
            "press" if kind != "preheat" else "preheat",
            title,
            said,
            0.0,
            "press",
            pieces=tuple(piece.key for piece in group) if kind != "preheat" else (),
            heat=heat,
            carried=carried,
            bare=bare,
            cover=cover_said,
            reused=self.work.spec.cover == "carriers",
            wrong=wrong,
        )

    def _elsewhere_cover(self) -> str | None:
        if not self.work.elsewhere:
            return None
        return COVERS[self.work.spec.cover] if self.work.spec.cover != "carriers" else "the used carriers of that side"

    def _touched(self, heat: Heat) -> tuple[str, ...]:
        """Return what lies under the platen; where it goes to several places, all that lies on the panel."""
        lying = [piece for piece in self.work.pieces if piece.key in (*self.carried, *self.bare)]
        at_once = heat.spread.at_once
        if at_once is not None:
            lying = [piece for piece in lying if piece.region.intersects(at_once.box)]
        return tuple(piece.key for piece in lying)

    def _bears(self, piece: PressPiece) -> float:
        """Return at how many positions the platen may lie on a piece, over all presses that it gets."""
        settings = [one.setting for one in self.work.pieces if one.setting is not None]
        once = sum(max((setting.seconds(kind) or 0.0 for setting in settings), default=0.0) for kind in LASTING)
        limit = piece.kind.most_heat_s
        return math.inf if limit is None or not once else max(1.0, math.floor(limit / once))

    def _spread(self, films: Sequence[tuple[Region, float]], kind: PressKind, lying: Sequence[Region]) -> Spread:
        return Spread(
            films=tuple(film for film, _ in films),
            most=tuple(times for _, times in films),
            platen=self.work.platen,
            keep_outs=() if kind == "back" else self.work.panel.keep_outs,
            overlap_mm=self.work.overlap_mm,
            lying=tuple(lying),
            soft=EMPTY if kind == "back" else self.work.soft,
            turns=self.work.heat_source in ("press", "plate", "hand", "iron"),
        )

    def _heat(self, kind: PressKind, group: Sequence[PressPiece], spread: Spread) -> Heat:
        """Return the press of some pieces: one heat that none of those below forbids, the longest of their times."""
        all_pieces = self.work.pieces
        about = all_pieces if kind in ("preheat", "full", "back") else group
        known = [piece.setting for piece in about if piece.setting is not None]
        own = [piece.setting for piece in group if piece.setting is not None]
        heats = [setting.heat_c for setting in own if setting.heat_c is not None]
        heat_c = max(heats, default=None)
        lying = [self.work.piece(key).setting for key in (*self.carried, *self.bare)]
        caps = [setting.recipe.most_c for setting in lying if setting is not None and setting.recipe.most_c]
        if heat_c is not None and caps:
            heat_c = min(heat_c, *caps)
        if kind == "preheat":
            seconds: float | None = middle(self.numbers.times.preheat_s)
        else:
            times = [setting.seconds(kind) for setting in (known if kind in ("full", "back") else own)]
            seconds = max((one for one in times if one is not None), default=None)
        setting = next((one for one in reversed(own)), None)
        return Heat(
            kind=kind,
            heat_c=heat_c,
            seconds=seconds,
            pressure=setting.pressure if setting is not None else None,
            spread=spread,
            moving=self._is_moved(setting),
            back=kind == "back",
            setting=self._setting_of(setting, heat_c),
        )

    def _is_moved(self, setting: PressSetting | None) -> bool:
        """Tell whether it is kept moving: as its source of heat asks, or the recipe where that is not known."""
        if self.work.platen is not None:
            return self.work.platen.kind.moving
        return setting is not None and setting.recipe.moving

    def _setting_of(self, setting: PressSetting | None, heat_c: float | None) -> HeatSetting | None:
        """Return the setting to choose where the source of heat has no thermostat, or is not known."""
        platen = self.work.platen
        if platen is not None:
            return None if heat_c is None else platen.setting_for(heat_c)
        return setting.recipe.setting if setting is not None else None

    def _heat_line(self, heat: Heat) -> str:
        time = "as long as the sheet in the roll says" if heat.seconds is None else f"{heat.seconds:.0f} s"
        pressure = f", {heat.pressure} pressure" if heat.pressure else ""
        return f"{self._degrees(heat)}, {time}{pressure}."

    def _degrees(self, heat: Heat) -> str:
        if heat.setting is not None:
            return f"{heat.setting.capitalize()} setting"
        return "The heat on its sheet" if heat.heat_c is None else write_temperature(heat.heat_c, degrees=self.degrees)


def _peel_of(piece: PressPiece) -> Peel:
    return piece.setting.peel if piece.setting is not None else "cool"


def _wait_of(piece: PressPiece) -> float:
    if piece.setting is not None:
        return piece.setting.wait_s
    return middle(press_numbers().waits.cool)


def _listed(pieces: Sequence[PressPiece]) -> str:
    """Return the names of pieces as a list in words."""
    names = list(dict.fromkeys(piece.name for piece in pieces))
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
