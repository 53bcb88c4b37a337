"""The job sheet: all that is done for a job, on a few pages to tick by hand, readable in black and white."""

from collections.abc import Iterator, Sequence

from zinnet.base.units import Unit, write_area, write_length, write_seconds
from zinnet.base.words import shown_source
from zinnet.layers.stack import FilmLayer
from zinnet.output.papers.loaded import LoadedPicture
from zinnet.output.papers.pages import WIDTH, Paper
from zinnet.output.papers.worn import WornPicture
from zinnet.plan.check_list import name_lines
from zinnet.plan.findings.model import Finding
from zinnet.plan.fitted import FittedDesign, Garment
from zinnet.plan.in_hand import hands_of
from zinnet.plan.ledger import film_ledger
from zinnet.plan.loading import LoadedMat
from zinnet.plan.model import Facts
from zinnet.plan.presses import GarmentPress
from zinnet.plan.run_garments import run_presses
from zinnet.plan.trims import Trim
from zinnet.pressing.object_steps import HOT
from zinnet.pressing.position_words import rows_said
from zinnet.shop.costing import Costing
from zinnet.workshop.price_list import PriceList

CAUTION = (
    "Blades and hooks point away from hands; hands off the cutter while it has power. Labels, the makers' sheets, the "
    "machine's manual and local rules come first."
)
PICTURE, MOST_PICTURES = (258.0, 214.0), 4
MAT_PICTURE, MOST_MATS = (96.0, 110.0), 10
LEVELS = {"stop": "Stop", "warn": "Look", "confirm": "Say yes", "note": "Note"}


def job_sheet_pdf(facts: Facts, findings: Sequence[Finding], prices: PriceList, *, paper: str = "a4") -> bytes:
    """Return the job sheet as PDF; of stops that were passed it says why, what is open stands at its head."""
    sheet = Paper(facts.job.title)
    sheet.head(facts.job.title)
    garments = ", ".join(f"{one.copies} x {one.blank.name}" for one in facts.garments if one.copies)
    sheet.say(f"{garments}. Machine: {facts.cutting.device.name}.")
    _say_findings(sheet, findings)
    _show_panels(sheet, facts)
    _list_sizes(sheet, facts)
    _list_layers(sheet, facts)
    _list_mats(sheet, facts)
    _list_names(sheet, facts)
    _list_steps(sheet, facts)
    if facts.is_nested:
        _list_costs(sheet, Costing(facts, prices))
    sheet.under("Take care")
    sheet.say(CAUTION, HOT)
    return sheet.pdf(paper)


def _say_findings(sheet: Paper, findings: Sequence[Finding]) -> None:
    passed = [one for one in findings if one.passed is not None]
    opened = [one for one in findings if one.passed is None and one.level != "note"]
    if passed:
        sheet.under("Passed with a reason")
        sheet.say(*dict.fromkeys(f"{one.title}: {one.measured}. Passed: {one.passed}" for one in passed))
    if opened:
        sheet.under("Open")
        sheet.say(*dict.fromkeys(f"{LEVELS[one.level]}: {one.title}. {one.measured}; {one.limit}" for one in opened))


# the garment


def _show_panels(sheet: Paper, facts: Facts) -> None:
    """Draw every panel of the job's own size that carries something, with its measures and places beside it."""
    garment = facts.garments[0]
    panels = {design.panel.id: design.panel for design in garment.designs}
    for number, panel in enumerate(list(panels.values())[:MOST_PICTURES]):
        designs = garment.on_panel(panel.id)
        left, right = Paper(""), Paper("")
        left.draw(*PICTURE, WornPicture(garment, panel, facts.job.unit, PICTURE).draw)
        right.under(f"{garment.blank.name}, {panel.name.lower()}, as worn")
        if number == 0:
            right.table(("Measure", "", ""), list(_measures(facts, garment)), widths=(90, 80, 75), right=(1,))
        for design in designs:
            right.say(*_place_said(facts, design))
        sheet.beside(left, right, (PICTURE[0], WIDTH - PICTURE[0]))


def _measures(facts: Facts, garment: Garment) -> Iterator[tuple[str, str, str]]:
    blank = garment.blank
    for name, mm in blank.measures.items():
        said = write_length(mm, unit=facts.job.unit)
        yield name.replace("_", " ").capitalize(), said, "measured" if name in blank.measured else "typical"


def _place_said(facts: Facts, design: FittedDesign) -> Iterator[str]:
    """Yield where a design lies: its size, its distance from the reference and from the centre line, its turn."""
    placement, unit = design.placement, facts.job.unit
    if placement is None:
        return
    yield f"{placement.place.name}: {_size_said(facts, design)}"
    way = {"top": "upper edge", "bottom": "lower edge", "middle": "middle"}[placement.place.anchor]
    reference = placement.place.reference_name
    yield f"{reference[0].upper()}{reference[1:]} to {way}: {write_length(placement.from_reference_mm, unit=unit)}"
    if placement.from_centre_mm:
        yield f"From the centre line: {write_length(placement.from_centre_mm, unit=unit)}"
    if placement.turn_deg:
        yield f"Turned by {placement.turn_deg:.1f} degrees"
    if len(placement.matrices) > 1:
        yield f"{len(placement.matrices)} of them; their middles, to the right of and below the reference point:"
        yield ", ".join(
            f"{write_length(x, unit=unit, with_unit=False)} / {write_length(y, unit=unit, with_unit=False)}"
            for x, y in placement.copies_mm
        )


def _size_said(facts: Facts, design: FittedDesign) -> str:
    placement, unit = design.placement, facts.job.unit
    assert placement is not None
    wide = write_length(placement.width_mm, unit=unit, with_unit=False)
    return f"{wide} x {write_length(placement.height_mm, unit=unit)}"


def _list_sizes(sheet: Paper, facts: Facts) -> None:
    if len(facts.garments) < 2:
        return
    unit = facts.job.unit
    rows = [
        (
            garment.blank.name,
            str(garment.copies),
            design.name,
            _size_said(facts, design),
            write_length(design.placement.from_reference_mm, unit=unit),
        )
        for garment in facts.garments
        for design in garment.designs
        if design.placement is not None
    ]
    sheet.under("Sizes")
    head = ("Garment", "Count", "Place", "Width x height", "From the reference")
    sheet.table(head, rows, widths=(150, 45, 120, 110, 90), ticks=True, right=(1,))


# film


def _list_layers(sheet: Paper, facts: Facts) -> None:
    for design in facts.garments[0].compositions:
        if design.stack is None:
            continue
        sheet.under(f"Layers of {design.name.lower()}, in the order of pressing")
        rows = [_layer_row(design, row) for row in design.stack.in_press_order]
        sheet.table(
            ("No.", "Film", "Cut", "Pieces", "Comes out (one garment)"),
            rows,
            widths=(26, 100, 165, 46, 168),
            ticks=True,
        )


def _layer_row(design: FittedDesign, row: FilmLayer) -> tuple[str, ...]:
    weeds, places = design.weeds(row), len(design.placement.matrices) if design.placement is not None else 1
    film = row.film.name if row.film is not None else f"no film for {row.layer.colour}"
    side = "" if row.side is None else row.side.reason
    areas, counters = (len(weeds.islands) - weeds.counters) * places, weeds.counters * places
    small = len(weeds.small_parts) * places
    small_said = f", {_counted(small, 'small part')} left" if small else ""
    out = f"{areas} open, {_counted(counters, 'counter')}{small_said}; about {write_seconds(weeds.seconds * places)}"
    return str(row.layer.order), film, side, str(row.layer.pieces * places), out


def _list_mats(sheet: Paper, facts: Facts) -> None:
    """List what is cut off which film, and the mats that it goes on, in the order of cutting."""
    if not facts.loads:
        return
    sheet.under("Mats in the order of cutting")
    sheet.table(
        ("Mat", "Film", "From", "Along x across", "Pieces", "Counters", "Time"),
        [_mat_row(load, trim, facts) for load in facts.loads for trim in load.trims],
        widths=(26, 84, 125, 128, 38, 50, 54),
        ticks=True,
    )
    use = film_ledger(facts)
    taken, worn, kept, waste = (
        write_area(area, unit=facts.job.unit)
        for area in (use.taken_mm2, use.on_garments_mm2, use.kept_mm2, use.lost_mm2)
    )
    mats = _counted(len(facts.mats), "mat")
    sheet.say(f"{mats}; {taken} taken, {worn} on garments, {kept} kept, {waste} lost.")
    sheet.under("On the machine")
    rows = dict.fromkeys(
        (load.films, load.trims[0].side_down, load.grip, load.settings_said, shown_source(load.known.source))
        for load in facts.loads
    )
    sheet.table(("Film", "Side", "Mat", "Settings", "By"), tuple(rows), widths=(84, 100, 115, 115, 109))
    sheet.gallery([(*MAT_PICTURE, LoadedPicture(load, MAT_PICTURE).draw) for load in facts.loads[:MOST_MATS]])


def _mat_row(load: LoadedMat, trim: Trim, facts: Facts) -> tuple[str, ...]:
    unit, (long, wide), mat = facts.job.unit, trim.size, trim.mat
    size = f"{write_length(long, unit=unit, with_unit=False)} x {write_length(wide, unit=unit)}"
    start = f", from {write_length(trim.box[0], unit=unit)} on" if trim.box[0] and not trim.whole else ""
    parts = [mat.nest.part(one.piece).region for one in mat.layout.placed]
    counters = sum(len(part.interiors) for region in parts for part in region.geoms)
    return (
        str(mat.number),
        mat.nest.film.name,
        trim.source,
        f"{size}{', as it is' if trim.whole else start}",
        str(len(parts)),
        str(counters),
        write_seconds(load.duration().seconds) if trim is load.trims[0] else "with it",
    )


def _list_names(sheet: Paper, facts: Facts) -> None:
    lines = name_lines(facts)
    if lines:
        sheet.under("Names")
        rows = [
            (str(one.number), one.words, f"{one.count} x {one.size}", ", ".join(map(str, one.mats))) for one in lines
        ]
        sheet.table(("No.", "Words", "Garment", "Mats"), rows, widths=(30, 220, 170, 85), ticks=True)


# pressing, time and money


def press_lines(press: GarmentPress) -> tuple[tuple[str, str], ...]:
    """Return the steps of a garment: the number of each, and what is done in it."""
    return tuple(
        (str(number), " ".join((f"{step.headline}." if step.lines else step.headline, *step.lines)))
        for number, step in enumerate(press.steps, start=1)
    )


def _list_steps(sheet: Paper, facts: Facts) -> None:
    """Write the steps of pressing, once for all garments that are pressed alike."""
    alike: dict[tuple[tuple[str, str], ...], list[str]] = {}
    for press in facts.presses:
        if press.steps and press.garment.copies:
            alike.setdefault(press_lines(press), []).append(f"{press.garment.copies} x {press.garment.blank.name}")
    _list_laying(sheet, facts)
    for lines, garments in alike.items():
        sheet.under(f"Pressing: {', '.join(garments)}")
        sheet.table(("No.", "Step"), lines, widths=(26, 479), ticks=True)
        _list_positions(sheet, next(one for one in facts.presses if press_lines(one) == lines), facts.job.unit)


def _list_laying(sheet: Paper, facts: Facts) -> None:
    """Write for each piece of each garment the four lengths by which it is laid."""
    unit, rows = facts.job.unit, []
    for name, press in run_presses(facts):
        for _, hand in hands_of(press, unit) if press.garment.copies else ():
            cells = (f"{length} {said}" for _, length, said in hand.rows(unit))
            rows.append((name, hand.name, *cells))
    if rows:
        sheet.under("Laying: lengths are measured to the film, not to its carrier")
        sheet.table(("Garment", "Piece", "A", "B", "C", "D"), rows, widths=(92, 77, 84, 84, 84, 84))


def _list_positions(sheet: Paper, press: GarmentPress, unit: Unit) -> None:
    """Write where the platen goes, for every press that takes more than one position."""
    said: set[tuple[str, ...]] = set()
    for step in press.presses:
        panel = next((work.panel for work in press.works if work.panel.id == step.panel), None)
        if panel is None or step.heat is None or len(step.heat.coverage.positions) < 2:
            continue
        lines = tuple(rows_said(step.heat.coverage.positions, panel, unit))
        if lines in said:
            continue
        said.add(lines)
        sheet.under(f"{step.title}: the middle of the platen")
        for line in lines:
            sheet.say(line)


def _list_costs(sheet: Paper, costing: Costing) -> None:
    priced, money = costing.priced, costing.prices.currency
    rows = [(item.name, item.basis, f"{item.amount:.2f}") for item in priced.items]
    rows.append(
        ("Cost in all", f"for {_counted(sum(line.count for line in costing.lines), 'garment')}", f"{priced.cost:.2f}")
    )
    sheet.under("Time and cost")
    if costing.not_whole:
        sheet.say(costing.not_whole)
    sheet.table(("What", "Basis", money), rows, widths=(120, 325, 78), right=(2,))


def _counted(count: int, what: str) -> str:
    return f"{count} {what}{'' if count == 1 else 's'}"
