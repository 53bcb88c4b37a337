"""Run the benchmarks: ``python -m benchmarks [NAME ...]``, all by default; their names stand below."""

import sys

from benchmarks import (
    closing,
    cutting,
    dragging,
    edits,
    eye,
    fidelity,
    growth,
    guided,
    hands,
    hostile,
    judgement,
    layers,
    long_session,
    losses,
    naming,
    offering,
    opens,
    photos,
    pressing,
    results,
    saving,
    start,
    travel,
    window,
)
from benchmarks.nests import density, shelves

ALL = {
    "start": start.run,
    "window": window.run,
    "dragging": dragging.run,
    "edits": edits.run,
    "density": density.run,
    "saving": saving.run,
    "shelves": shelves.run,
    "nap": shelves.nap,
    "large": shelves.large,
    "travel": travel.run,
    "files": cutting.files,
    "link": cutting.link,
    "advice": cutting.advice,
    "positions": pressing.positions,
    "steps": pressing.steps,
    "schedules": pressing.schedules,
    "timers": pressing.timers,
    "names": naming.run,
    "photos": photos.run,
    "eye": eye.run,
    "hostile": hostile.run,
    "guided": guided.run,
    "answers": hostile.answers,
    "session": long_session.run,
    "growth": growth.run,
    "hands": hands.run,
    "results": results.run,
    "closing": closing.run,
    "opens": opens.run,
    "kills": losses.kills,
    "together": losses.together,
    "fidelity": fidelity.run,
    "layers": layers.run,
    "judgement": judgement.run,
    "offering": offering.run,
    "wander": judgement.wander,
    "words": judgement.words,
}


def main() -> None:
    """Run those that are named."""
    for name in [word for word in sys.argv[1:] if word in ALL] or ALL:
        print(f"== {name}: {(ALL[name].__doc__ or '').strip().splitlines()[0]}", flush=True)
        ALL[name]()


if __name__ == "__main__":
    main()
