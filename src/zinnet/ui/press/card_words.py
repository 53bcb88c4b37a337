"""What a card of the press's bench says: the piece in hand, the dry fit, the lines, and what the large key does now."""

from typing import TYPE_CHECKING

from zinnet.base.units import write_temperature
from zinnet.bench.press_cooling import cooled_c
from zinnet.blanks.cloth_colours import colour_called
from zinnet.plan.dry_fit import laid_out
from zinnet.plan.in_hand import in_hand, looks_like_another
from zinnet.plan.presses import degrees_of
from zinnet.pressing.heat_values import press_numbers

if TYPE_CHECKING:
    from zinnet.plan.dry_fit import LaidOut
    from zinnet.plan.in_hand import InHand
    from zinnet.plan.press_cards import Card
    from zinnet.ui.press.control import PressControl


class CardWords:
    """The words of the card that is due; what is dear is worked out once for each card."""

    def __init__(self, control: "PressControl") -> None:
        self.control = control
        self._in_hand: tuple[object, InHand | None] | None = None
        self._laid_out: tuple[object, LaidOut] | None = None
        self._alike: tuple[str, bool] | None = None

    def hand(self, due: "Card") -> "InHand | None":
        """Return the piece in hand, until its press is shut."""
        run = self.control.run
        if due.hand is None or run is None or run.timer(due) is not None:
            return None
        slips, unit = run.slips_of(due), self.control.session.job.unit
        key = (due.id, tuple(slips.items()), unit)
        if self._in_hand is None or self._in_hand[0] != key:
            self._in_hand = key, in_hand(due, unit, slips)
        return self._in_hand[1]

    def laid_out(self, due: "Card") -> "LaidOut | None":
        """Return the dry fit, where the card asks for it and nothing is heated yet."""
        run, step = self.control.run, due.dry_fit
        if run is None or step is None or step.panel is None or run.timer(due) is not None:
            return None
        key = (due.press, step.panel)
        if self._laid_out is None or self._laid_out[0] != key:
            self._laid_out = key, laid_out(due.press, step.panel)
        return self._laid_out[1]

    def head(self, due: "Card") -> str:
        """Return whose the card is: its number, its name, its colour."""
        run = self.control.run
        assert run is not None
        if due.is_for_all:
            return "For the whole run"
        cloth = colour_called(due.press.garment.blank.colour)
        garments = len({card.number for card in run.cards if not card.is_for_all})
        return f"No. {due.number} of {garments} · {due.garment}, {cloth}"

    def said(self, due: "Card") -> str:
        """Return what the card says, for whoever hears it instead of reading."""
        hand, laid, unit = self.hand(due), self.laid_out(due), self.control.session.job.unit
        if hand is not None:
            lengths = "; ".join(f"{letter}: {length} {goes}" for letter, length, goes in hand.rows(unit))
            return f"{due.garment}. {due.title}. {lengths}. {hand.way(unit)} {' '.join(self.lines(due))}"
        if laid is not None:
            counts = "; ".join(f"{piece.name}: {counted}" for piece, counted in laid.fit.rows)
            return f"{due.garment}. {due.title}. {counts}. {' '.join(laid.asked)} {' '.join(self.lines(due))}"
        return f"{due.garment}. {due.step.title}. {' '.join(self.lines(due))}"

    def lines(self, due: "Card") -> list[str]:
        """Return what to do, beside what the picture and the numbers say."""
        run, step = self.control.run, due.step
        assert run is not None
        if self.hand(due) is not None:
            return [_then(due)]
        if self.laid_out(due) is not None:
            others = [one for one in due.steps if one.kind not in ("dry fit", step.kind)]
            heat = [step.lines[0]] if step.heat is not None else []
            return [". ".join([*(one.title for one in others), step.title, *heat])] if step.kind != "dry fit" else []
        said = list(step.lines)
        if len(due.indices) > 1 and run.timer(due) is None:
            said = [*(f"{one.title}. {' '.join(one.lines[:1])}" for one in due.steps[:-1]), *said]
        if step.kind == "peel":
            cooled = cooled_c(run, due)
            if cooled is not None and step.peel in ("cool", "cold"):
                degrees = degrees_of(self.control.session.job)
                most = press_numbers().touch.minute_c
                enough = "cool to the touch" if cooled <= most else "not cool yet"
                said.insert(0, f"About {write_temperature(cooled, degrees=degrees)} by an estimate: {enough}.")
            if step.lifts:
                said.append(f"If it lifts: {step.lifts[0].lower()}{step.lifts[1:]}")
        if step.kind == "heat up" and self._stops():
            said.insert(0, f"A stop is open: {self._stops()}. Mend it first, or pass it with a reason.")
        if step.hours:
            said.insert(0, f"The day before: about {step.hours:g} h.")
        return said

    def _stops(self) -> str:
        """Return the stops that are open, in words; nothing is heated while one is."""
        return ", ".join(dict.fromkeys(one.title.lower() for one in self.control.session.plan.open_stops))

    def _is_alike(self, due: "Card", cards: "tuple[Card, ...]") -> bool:
        if self._alike is None or self._alike[0] != due.id:
            self._alike = due.id, looks_like_another(due, cards)
        return self._alike[1]

    def onward(self, due: "Card") -> str:
        """Return what the large key does now."""
        run, step = self.control.run, due.step
        assert run is not None
        timer = run.timer(due)
        waits = run.blocked_by(due) is not None
        if waits or (timer is not None and timer.left_s(run.clock()) > 0):
            return "Wait for the timer"
        if step.gate:
            return "It is done, go on"
        if step.kind == "heat up" and self._stops():
            return "A stop is open"
        if timer is not None:
            return "It is open"
        if due.seconds:
            return f"No. {due.number}: shut the press" if self._is_alike(due, run.cards) else "Shut the press"
        if due.hand is not None:
            return "It lies there"
        if due.dry_fit is not None:
            return "All is here"
        return {"peel": "It is peeled", "heat up": "It is hot", "label": "Read"}.get(step.kind, "Done")


def _then(due: "Card") -> str:
    """Return what is done once the piece lies: look, cover, and press."""
    if due.step.heat is None:
        return ""
    cover = [one.title for one in due.steps if one.kind == "cover"]
    return f"Step back and look. {''.join(f'{one}. ' for one in cover)}{due.step.lines[0]}"
