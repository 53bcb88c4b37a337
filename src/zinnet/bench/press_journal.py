"""The journal of the press's bench: how far each run got, kept in the state folder at every change."""

import hashlib
import json
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from zinnet.base.errors import ZinnetError
from zinnet.base.files import read_file, write_whole
from zinnet.base.json_file import read_json
from zinnet.base.locks import held
from zinnet.bench.timers import Moment
from zinnet.placement.slips import Slip
from zinnet.plan.press_cards import Card, Hand

MOST_BYTES = 5_000_000
MOST_RUNS = 20
"""So many runs are kept; the one that was not gone on with longest is forgotten first."""


@dataclass(frozen=True)
class Done:
    """What was really done with a card.

    ``seconds`` is how long its timer ran, ``lifted`` how often film lifted, ``spent_s`` how long the card was due
    without pauses, and ``hands_s`` how long of that hands were at it. ``skipped`` was passed over.
    """

    card: str
    seconds: float | None = None
    lifted: int = 0
    spent_s: float = 0.0
    hands_s: float = 0.0
    skipped: bool = False


def done_of(row: Sequence[Any]) -> Done:
    """Return what was done with a card from a row of the journal. Raises what a broken row raises."""
    card, seconds, lifted, spent, hands, skipped = row
    timed = None if seconds is None else float(seconds)
    return Done(str(card), timed, int(lifted), float(spent), float(hands), bool(skipped))


def key_of(cards: Sequence[Card]) -> str:
    """Return what a kept run is about, in whatever order: other cards are another run."""
    said = sorted(f"{card.id} {card.garment} {card.step.title} {card.seconds:.0f}" for card in cards)
    return hashlib.sha256("|".join(said).encode()).hexdigest()[:20]


def keep_run(path: Path, key: str, row: dict[str, Any]) -> None:
    """Keep how far a run got beside the others."""
    with held(path.with_suffix(".lock")):
        others = [(name, kept) for name, kept in kept_runs(path).items() if name != key]
        write_whole(path, json.dumps(dict([*others[-MOST_RUNS + 1 :], (key, row)])).encode())


def kept_runs(path: Path) -> dict[str, Any]:
    """Return how far each run got, the latest last; a file that can't be read is as if there was none."""
    try:
        rows = read_json(read_file(path, MOST_BYTES), path.name, most_values=MOST_BYTES)
    except ZinnetError:
        return {}
    return rows if isinstance(rows, dict) else {}


def keep_seen(path: Path, key: str, now: Moment) -> None:
    """Keep when somebody was last at the bench of a run; it is written often, and losing it does no harm."""
    row = {"run": key, "boot": now.boot, "since_boot_s": now.since_boot_s, "calendar_s": now.calendar_s}
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_text(json.dumps(row), encoding="utf-8")


def last_seen(path: Path, key: str) -> Moment | None:
    """Return when somebody was last at the bench of a run, where that is known."""
    try:
        row = read_json(read_file(path, MOST_BYTES), path.name, most_values=MOST_BYTES)
        if row["run"] != key:
            return None
        return Moment(str(row["boot"]), float(row["since_boot_s"]), float(row["calendar_s"]))
    except (ZinnetError, KeyError, TypeError, ValueError, OSError):
        return None


def row_of_slip(slip: Slip) -> list[float]:
    """Return a slip as a row."""
    return [slip.right_mm, slip.down_mm, slip.turn_deg]


def slip_key(number: int, hand: Hand) -> str:
    """Return by what the slip of a garment's piece is known."""
    return f"{number}/{hand.piece}/{hand.place}"
