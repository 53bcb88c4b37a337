"""The log of the demos: what the workshop of the Wrenfield Lantern Walk made before. All of it is invented."""

from zinnet.workshop.made import Made, MadeFilm, Verdict

CM2 = 100.0
Row = tuple[str, str, str, int, tuple[tuple[str, float, float], ...], Verdict, int, float, int, str]
ROWS: tuple[Row, ...] = (
    ("2026-04-11", "Lantern bearers' caps", "Cap, one size", 8, (("cream", 310, 120),), "good", 0, 74, 9, ""),
    ("2026-05-02", "Reed pattern on tote bags", "Tote bag", 12, (("reed-pattern", 2900, 980),), "usable", 1, 131, 4,
     "the pattern runs across on two of them"),
    ("2026-05-23", "Moon on the band's hoodies", "Hoodie, adult M", 9, (("moonlight", 3400, 1450), ("cream", 900, 380)),
     "good", 0, 152, 6, "the pocket seam needs the pillow"),
    ("2026-06-20", "Moth badges for the children", "Tee, youth M", 16, (("cream", 700, 210),), "good", 0, 88, 7, ""),
    ("2026-07-18", "Drummers' blanket, the first", "Blanket", 1, (("moss-flock", 5200, 2100),), "spoiled", 1, 66, 0,
     "the nap ran against itself; nested again with the direction kept"),
    ("2026-08-08", "Stewards' tees, the summer walk", "Tee, adult M", 20, (("cream", 5100, 1900), ("amber", 1900, 1500),
     ("mint", 800, 500)), "good", 1, 236, 5, "one tee pressed twice by mistake"),
    ("2026-09-19", "Jar decals, the trial", "Jar", 6, (("cream", 240, 90),), "usable", 0, 41, 0,
     "for the next: the front colour first"),
    ("2026-10-24", "Marshal's sash", "Sash", 2, (("amber", 420, 160),), "good", 0, 33, 1, ""),
)  # fmt: skip
"""Day, title, blank, garments, films (id, used up and thrown away in cm2), verdict, lost, minutes, washes, note."""


def demo_history() -> tuple[Made, ...]:
    """Return what was made before, the earliest first."""
    return tuple(
        Made(
            at=f"{day}T18:30:00+00:00",
            title=title,
            blank=blank,
            garments=garments,
            films=tuple(
                MadeFilm(film=film, used_mm2=used * CM2, waste_mm2=waste * CM2, school="quick", heat_c=160, seconds=15)
                for film, used, waste in films
            ),
            planned_s=minutes * 54.0,
            real_s=minutes * 60.0,
            verdict=verdict,
            spoiled=lost,
            washes=washes,
            note=note,
        )
        for day, title, blank, garments, films, verdict, lost, minutes, washes, note in ROWS
    )
