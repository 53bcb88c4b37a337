"""Photos with known truth: how far off lengths are, and whether a missing or covered sheet is said."""

import time

import numpy as np

from tests.photo.drawn import photo
from zinnet.camera.found_sheet import PhotoError, find_sheet
from zinnet.camera.measure import length_between

PICTURES, LENGTHS, WRONG = 200, 5, 50
ALLOWED = 0.01
LEAST_MM = 80


def run() -> None:
    """Measure in 200 drawn photos tilted by up to 35 degrees, then look at 150 without a whole sheet."""
    for paper in ("a4", "letter"):
        off, missed, outside, took = [], 0, 0, []
        for seed in range(PICTURES):
            drawn = photo(seed, paper=paper, size=(1600, 1200))
            began = time.perf_counter()
            try:
                found = find_sheet(drawn.picture, paper)
            except PhotoError as error:
                missed += 1
                print(f"{paper} {seed}: {error}")
                continue
            took.append(time.perf_counter() - began)
            luck = np.random.default_rng(seed + 1000)
            for _ in range(LENGTHS):
                one, other = np.array([700, 720]) + luck.uniform(-280, 280, (2, 2))
                true = float(np.hypot(*(one - other)))
                if true < LEAST_MM:
                    continue
                told = length_between(found, drawn.px(*one), drawn.px(*other))
                off.append(abs(told.mm - true) / true)
                outside += abs(told.mm - true) > told.within_mm + 0.2
        print(
            f"{paper}: {PICTURES - missed} of {PICTURES} found; {len(off)} lengths, median {np.median(off):.3%}, "
            f"worst {max(off):.3%}, {sum(one > ALLOWED for one in off)} over 1 %, {outside} outside what is stated; "
            f"{np.median(took):.2f} s a picture, at most {max(took):.2f} s"
        )
    for said, how in (
        ("no sheet", {"sheet": False}),
        ("a corner", {"covered": "corner"}),
        ("an edge", {"covered": "edge"}),
    ):
        refused = 0
        for seed in range(WRONG):
            try:
                find_sheet(photo(seed, size=(1600, 1200), **how).picture, "a4")
            except PhotoError:
                refused += 1
        print(f"{said} {'covered' if 'covered' in how else ''}: {refused} of {WRONG} refused")
