"""Nests on random shelves: what scraps save, what nap forbids, and how much memory and time a large job takes."""

import resource
import time

import numpy as np
import shapely
from shapely import affinity

from zinnet.geometry.region import as_region, union
from zinnet.machines.cutters import shipped_machines
from zinnet.nesting.model import Layout, NestTask, Piece
from zinnet.nesting.running import NestRun, nest_all
from zinnet.nesting.sheet import film_of
from zinnet.nesting.verify import regions_on
from zinnet.workshop.after_cut import CutLoad, changes, leftovers
from zinnet.workshop.stock import StockItem
from zinnet.workshop.stock_sheets import sheets_from

STOCKS, JOBS, BATCH, SECONDS = 50, 1000, 20, 2.0
GROUP_MM = 200.0
EDGE_MM = 3.0
CLOSE_MM = 0.02


def _shape(rng: np.random.Generator) -> shapely.Polygon:
    corners = int(rng.integers(3, 12))
    angles = np.sort(rng.uniform(0, 2 * np.pi, corners))
    radii = rng.uniform(8, 32, corners)
    star = shapely.Polygon(np.column_stack([radii * np.cos(angles), radii * np.sin(angles)])).buffer(0)
    return max(shapely.get_parts(star), key=lambda part: part.area)


def _scrap(rng: np.random.Generator, number: int) -> StockItem:
    width, height = rng.uniform(120, 290), rng.uniform(90, 260)
    film = shapely.box(0, 0, width, height)
    for _ in range(int(rng.integers(1, 6))):
        hole = shapely.Point(rng.uniform(0, width), rng.uniform(0, height)).buffer(rng.uniform(10, 45), quad_segs=6)
        film = film.difference(hole)
    film = max(shapely.get_parts(film), key=lambda part: part.area)
    left, top, right, bottom = film.bounds
    outline = as_region(shapely.transform(film, lambda points: points - (left, top)))
    spot = shapely.Point(rng.uniform(0, right - left), rng.uniform(0, bottom - top)).buffer(7)
    return StockItem(
        number=number,
        film="cream",
        kind="scrap",
        length_mm=right - left,
        width_mm=bottom - top,
        outline=outline,
        spoiled=as_region(spot),
    )


def _pieces(rng: np.random.Generator) -> tuple[Piece, ...]:
    return tuple(
        Piece(f"p{k}", as_region(_shape(rng)), int(rng.integers(2, 9)), "quarter")
        for k in range(int(rng.integers(3, 7)))
    )


def _nest(items: list[StockItem], pieces: tuple[Piece, ...]) -> tuple[NestTask, list[StockItem], Layout]:
    loads = sheets_from(items, shipped_machines().mat("12x12in"), edge_mm=EDGE_MM, directed=False)
    task = NestTask(pieces, tuple(sheet for sheet, _ in loads), 3.0, seconds=SECONDS)
    return task, [item for _, item in loads], NestRun(task).wait()


def _touches(task: NestTask, layout: Layout) -> int:
    """Return how many pieces touch a hole, a spoiled spot or an edge's margin, by distances on the true shapes."""
    bad = 0
    regions = {piece.name: piece.region for piece in task.pieces}
    for one in layout.sheets:
        sheet = task.sheets[one.sheet]
        film = film_of(sheet) if sheet.keep_out is None else film_of(sheet).difference(sheet.keep_out)
        for region in regions_on(one, regions):
            inside = film.covers(region) and region.distance(film.boundary) >= sheet.margin_mm - CLOSE_MM
            bad += not inside
    return bad


def run() -> None:
    """Shelves: 50 random stocks with and without their scraps, film that goes back and is used again."""
    ratios, touching, lost = [], 0, 0.0
    for seed in range(STOCKS):
        rng = np.random.default_rng(seed)
        scraps = [_scrap(rng, k + 1) for k in range(int(rng.integers(1, 5)))]
        roll = StockItem(number=99, film="cream", kind="roll", width_mm=305, length_mm=6000)
        pieces = _pieces(rng)
        task, items, layout = _nest([*scraps, roll], pieces)
        plain_task, _, plain = _nest([roll], pieces)
        touching += _touches(task, layout)
        taken = sum(one.used_length_mm for one in layout.sheets if items[one.sheet].kind == "roll")
        ratios.append(taken / sum(one.used_length_mm for one in plain.sheets))
        assert not layout.unplaced
        assert plain_task.pieces == pieces
        lost = max(lost, _lost_share(task, items, layout))
        print(f"stock {seed:>2}: {len(scraps)} scraps, film off the roll {ratios[-1]:.3f} of rolls only", flush=True)
    print(f"film off rolls: median {np.median(ratios):.3f}, worst {max(ratios):.3f}; pieces touching: {touching}")
    print(f"area that does not balance: at most {lost:.2e} of what was taken")


def _lost_share(task: NestTask, items: list[StockItem], layout: Layout) -> float:
    """Return how far the books are from balancing when all leftovers are kept as they are."""
    regions = {piece.name: piece.region for piece in task.pieces}
    loads = [
        CutLoad(task.sheets[one.sheet], items[one.sheet], union(regions_on(one, regions)), one.used_length_mm)
        for one in layout.sheets
    ]
    left = leftovers(loads, least_mm=40.0)
    done = changes(loads, left, dict.fromkeys(range(len(left)), "as it is"))
    before = sum(item.area_mm2 for item in {load.item.number: load.item for load in loads}.values())
    after = sum(change.after.area_mm2 for change in done if change.after is not None)
    kept = sum(item.area_mm2 for change in done for item in change.leftovers)
    specks = sum(one.taken_mm2 - one.cut_mm2 - one.region.area for one in left)
    cut = sum(float(piece.region.area) * piece.copies for piece in task.pieces)
    return abs(before - after - kept - cut - max(specks, 0.0)) / before


def nap() -> None:
    """Nap: 1,000 random jobs whose pieces may not be turned, and groups of several parts that must stay rigid."""
    turned, bent, placed = 0, 0.0, 0
    for first in range(0, JOBS, BATCH):
        tasks = [_directed_task(seed) for seed in range(first, first + BATCH)]
        for task, layout in zip(tasks, nest_all(tasks), strict=True):
            allowed = {piece.name: piece.allowed_turns or () for piece in task.pieces}
            for one in (each for sheet in layout.sheets for each in sheet.placed):
                placed += 1
                turned += one.turn_deg not in allowed[one.piece]
                matrix = one.matrix[:2, :2]
                bent = max(bent, float(np.abs(matrix @ matrix.T - np.eye(2)).max()) * GROUP_MM)
    print(f"{placed} copies in {JOBS} jobs: {turned} turned against the nap, groups bent by at most {bent:.1e} mm")


def _directed_task(seed: int) -> NestTask:
    """Return a random job on film with a direction: one or two turns, and a group of two parts."""
    rng = np.random.default_rng(10_000 + seed)
    group = as_region(shapely.union_all([_shape(rng), affinity.translate(_shape(rng), 70, 10)]))
    allowed = ((0.0,), (90.0,), (0.0, 180.0))[seed % 3]
    pieces = (
        Piece("group", group, int(rng.integers(1, 4)), allowed),
        Piece("one", as_region(_shape(rng)), 4, allowed),
    )
    roll = StockItem(number=1, film="moss-flock", kind="roll", width_mm=400, length_mm=2000, turned=seed % 2 > 0)
    loads = sheets_from([roll], shipped_machines().mat("12x24in"), edge_mm=EDGE_MM, directed=True)
    return NestTask(pieces, tuple(sheet for sheet, _ in loads), 2.0, seconds=0.3)


def large() -> None:
    """Large: 300 pieces of three films in 10 s in all; the memory of the worker and its engines."""
    begun, count = time.monotonic(), 0
    for film in range(3):
        rng = np.random.default_rng(film)
        pieces = tuple(Piece(f"p{k}", as_region(_shape(rng)), 4, "quarter") for k in range(25))
        sheet, _ = sheets_from(
            [StockItem(number=1, film="cream", kind="roll", width_mm=305, length_mm=9000)],
            shipped_machines().mat("12x24in"),
            edge_mm=EDGE_MM,
            directed=False,
        )[0]
        layout = NestRun(NestTask(pieces, (sheet,), 3.0, seconds=10 / 3)).wait()
        count += sum(len(one.placed) for one in layout.sheets)
        print(f"film {film + 1}: {len(layout.sheets)} mats, {len(layout.unplaced)} left over")
    peak = resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss / 1024
    print(f"{count} pieces in {time.monotonic() - begun:.1f} s; the largest process took {peak:.0f} MiB")
