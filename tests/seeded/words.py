"""Random words through random shapes, and what of them a film can't hold, counted in dots."""

import random
import string
from dataclasses import dataclass

from tests.seeded.judge import fine_places
from zinnet.artwork.lettering.fonts import fonts
from zinnet.artwork.lettering.word_through import WordThroughSpec
from zinnet.artwork.silhouettes import SILHOUETTES
from zinnet.artwork.source import WordThroughArt
from zinnet.base.errors import ZinnetError
from zinnet.bench.document import Document
from zinnet.job.edits import add_source, set_placement
from zinnet.plan.drawn_anew import width_that_holds
from zinnet.plan.fitting import fitting_of
from zinnet.workshop.model import standard_workshop

LETTERS = string.ascii_letters + "&"
ASKED_MM = 1.5
FINE = ("too-thin", "gap-will-close", "weed-speck")


def word_job(seed: int) -> Document:
    """Return a job of one random word through a random shape. Raises where there is no room for its letters."""
    rng = random.Random(seed)
    word = WordThroughSpec(
        word="".join(rng.choice(LETTERS) for _ in range(rng.randint(2, 8))),
        shape=rng.choice(list(SILHOUETTES)),
        font=rng.choice(list(fonts())),
        rows=rng.randint(1, 4),
        cover=rng.uniform(0.35, 0.8),
        reach=rng.uniform(1, 1.6),
        gap_mm=rng.uniform(1, 4),
        outline_mm=rng.uniform(1.5, 5),
        least_mm=ASKED_MM,
        shape_colour="#e9a53a",
        outside_colour="#e9a53a",
    )
    document = Document(standard_workshop())
    document.apply(add_source("word", WordThroughArt(word=word)))
    document.apply(set_placement("x", width_mm=rng.uniform(180, 320)))
    return document


@dataclass(frozen=True)
class Word:
    """What came of a word: from which width on Zinnet says that it holds, where it does not as asked; what is wrong."""

    held_from_mm: float | None
    wrong: tuple[str, ...]


def word_through_a_shape(seed: int) -> Word | None:
    """Return what came of a random word, at the width from which it is said to hold; None without room for it."""
    try:
        document = word_job(seed)
    except ZinnetError:
        return None
    plan = document.plan
    found = [one.id for one in plan.findings if one.id in FINE]
    if not found:
        return Word(None, tuple(fine_places(document)))
    width = width_that_holds(fitting_of(plan.job, plan.workshop), plan.garments[0], plan.garments[0].designs[0])
    if width is None:
        return Word(None, (f"{', '.join(found)}, and nothing is said of a width that helps",))
    document.apply(set_placement("x", width_mm=width))
    return Word(width, tuple(fine_places(document)))
