"""Random jobs to press, and a simulation of their steps that shares nothing with what derived them."""

import random
from typing import Any

from tests.helpers import document_of
from zinnet.bench.document import Document
from zinnet.blanks.catalogue import read_blank_name
from zinnet.geometry.region import union
from zinnet.job.edits import (
    Edit,
    choose_blank,
    choose_film,
    choose_platen,
    press_in_order,
    set_blank,
    set_layers,
    set_placement,
    set_pressing,
)
from zinnet.job.model import Job

COLOURS = ("#d62828", "#1f57c3", "#f4ead5", "#1a1a1a")
SHAPES = (
    '<rect width="50" height="80" fill="#d62828"/><rect x="50" width="50" height="80" fill="#1f57c3"/>',
    '<rect width="90" height="90" fill="#d62828"/><circle cx="40" cy="40" r="25" fill="#1f57c3"/>',
    "".join(f'<circle cx="50" cy="50" r="{50 - 9 * k}" fill="{colour}"/>' for k, colour in enumerate(COLOURS)),
    '<rect width="30" height="60" fill="#d62828"/><rect x="60" width="30" height="60" fill="#1f57c3"/>'
    '<circle cx="45" cy="80" r="9" fill="#f4ead5"/>',
)
FILMS = (
    "white", "scarlet", "gold-glitter", "rose-glitter", "soft-coral", "moonlight", "reed-pattern", "moss-flock",
    "white-puff", "white-adhesive",
)  # fmt: skip
BLANKS = ("tee-adult", "hoodie-adult", "tote", "cap", "sash", "blanket", "glass-plate", "zip-hoodie-adult", "stocking")
PLATENS = ("flat-15x15", "flat-12x10", "plate-5x5", "cap-6x3", "iron-8x4")


def random_job(seed: int) -> Document:
    """Return a random job: shapes, films, fabric, label, school, covers, order, platen."""
    luck = random.Random(seed)
    blank = luck.choice(BLANKS)
    edits: list[Any] = [choose_blank(read_blank_name(blank))]
    if luck.random() < 0.7:
        edits.append(set_blank("x", care_dots=luck.choice([1, 2, 3])))
    if luck.random() < 0.3:
        edits.append(set_blank("x", fabric=luck.choice(["polyester", "fleece", "acrylic", "silk", "cotton"])))
    few = luck.sample(FILMS, 3)
    edits += [choose_film(colour, luck.choice(few)) for colour in COLOURS]
    edits.append(set_layers("x", method=luck.choice(["auto", "stack", "cut-away", "lap"])))
    if luck.random() < 0.3:
        edits.append(press_in_order(tuple(luck.sample(COLOURS, 4))))
    if luck.random() < 0.5:
        edits.append(choose_platen(luck.choice(PLATENS if blank != "blanket" else PLATENS[:2])))
    edits.append(
        set_pressing(
            "x",
            school=luck.choice(["tack", "full"]),
            cover=luck.choice(["carriers", "parchment", "sheet", "none"]),
            together=luck.random() < 0.4,
            cold_plate=luck.random() < 0.3,
        )
    )
    if luck.random() < 0.3:
        edits.append(set_placement("x", width_mm=luck.uniform(60, 200)))

    def all_at_once(job: Job) -> Job:
        for edit in edits:
            job = edit.change(job)
        return job

    return document_of(luck.choice(SHAPES), Edit("all", all_at_once))


def wrongs(document: Document) -> list[str]:
    """Return what goes wrong when the steps are carried out and no finding says so."""
    found = []
    said = {finding.id for finding in document.plan.findings}
    for press in document.plan.presses:
        pieces = {piece.key: piece for work in press.works for piece in work.pieces}
        lies: dict[str, str] = {}
        heated: set[str] = set()
        panel_of = {piece.key: work.panel.id for work in press.works for piece in work.pieces}
        for step in press.steps:
            if step.kind == "lay":
                lies |= dict.fromkeys(step.pieces, "carrier")
            elif step.kind == "fix":
                lies |= dict.fromkeys(step.pieces, "paper")
            elif step.kind in ("peel", "burnish"):
                lies |= dict.fromkeys(step.pieces, "bare")
            if step.heat is None:
                continue
            under = union(position.box for position in step.heat.coverage.positions)
            here = [key for key in lies if panel_of[key] == step.panel and pieces[key].region.intersects(under)]
            bare = [key for key in here if lies[key] == "bare"]
            if step.heat.back:
                bare = [key for key in lies if panel_of[key] != step.panel and lies[key] == "bare"]
            if bare and step.cover is None and "bare-film" not in said:
                found.append(f"{step.title}: bare {bare}")
            if step.heat.kind not in ("preheat", "back"):
                for key in step.pieces:
                    missing = [other for other in pieces[key].on if other not in heated]
                    if missing and not said & {"press-order", "heat-clash", "film-cannot-carry"}:
                        found.append(f"{step.title}: {key} before {missing}")
                heated |= set(step.pieces)
            limits = [limit.most_c for limit in press.limits if not limit.soft]
            for key in here:
                setting = pieces[key].setting
                limits += [setting.recipe.most_c] if setting is not None and setting.recipe.most_c else []
                if pieces[key].kind.bond == "glue" and "heat-clash" not in said:
                    found.append(f"{step.title}: adhesive film is heated")
            if step.heat.heat_c is not None and limits and step.heat.heat_c > min(limits) + 1e-6:
                found.append(f"{step.title}: {step.heat.heat_c} over {min(limits)}")
            wanted = [pieces[key].setting for key in here if pieces[key].setting is not None]
            if any(one.limit is not None for one in wanted if one is not None) and "fabric-limit" not in said:
                found.append(f"{step.title}: held to a limit that no finding says")
            if any(one.tried is not None for one in wanted if one is not None) and "heat-untested" not in said:
                found.append(f"{step.title}: above a care label, and no finding says so")
        for key, piece in pieces.items():
            if piece.kind.bond == "heat" and key not in heated:
                found.append(f"{key} is never pressed")
            if lies.get(key) == "carrier":
                found.append(f"{key} keeps its carrier")
    return found
