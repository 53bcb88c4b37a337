"""Reading cut files back with other programs' libraries: each returns outlines in mm, y down, in their order."""

import contextlib
import io
import os

import numpy as np
import shapely

from zinnet.cutting.paths import CutSheet

ARC_STEPS = 80
POINTS_PER_MM = 72 / 25.4


def outlines_by_svgelements(text: str) -> list[np.ndarray]:
    """svgelements 1.9, an independent SVG parser; at 25.4 dots per inch one of its pixels is 1 mm."""
    import svgelements

    found = []
    for path in svgelements.SVG.parse(io.StringIO(text), reify=True, ppi=25.4).elements():
        if not isinstance(path, svgelements.Path):
            continue
        points = []
        for part in path:
            if isinstance(part, svgelements.Arc):
                points += [part.point(k / ARC_STEPS) for k in range(1, ARC_STEPS + 1)]
            else:
                points.append(part.end)
        found.append(np.array([(point.x, point.y) for point in points]))
    return found


def outlines_by_gdal(data: bytes, height_mm: float, path) -> tuple[list[np.ndarray], list[str]]:
    """GDAL's DXF driver (by pyogrio), arcs drawn in steps of a degree; also each outline's layer."""
    os.environ["OGR_ARC_STEPSIZE"] = "1"
    from pyogrio import raw

    path.write_bytes(data)
    meta, _, geometries, fields = raw.read(str(path))
    layers = fields[list(meta["fields"]).index("Layer")]
    lines = [
        np.asarray(one.coords if one.geom_type == "LineString" else one.exterior.coords)[:, :2]
        for one in shapely.from_wkb(geometries)
    ]
    return [line * (1, -1) + (0, height_mm) for line in lines], list(layers)


def outlines_by_ezdxf(data: bytes, height_mm: float) -> list[np.ndarray]:
    """ezdxf's own HP-GL interpreter, which shares nothing with the writer."""
    with contextlib.redirect_stdout(io.StringIO()):
        from ezdxf.addons.hpgl2 import api

    player = api.record_plotter_output(data, api.MergeControl.NONE)
    found = []
    for _, _, shape in player.recordings():
        points = np.array([(point.x, point.y) for point in shape.vertices()]) / 40
        if len(points) < 2:
            continue
        if found and np.allclose(points[0], found[-1][-1], atol=1e-6) and not np.allclose(found[-1][0], found[-1][-1]):
            found[-1] = np.vstack([found[-1], points[1:]])
        else:
            found.append(points)
    return [points * (1, -1) + (0, height_mm) for points in found]


def outlines_by_pdfium(data: bytes, *, below_mm: float) -> list[np.ndarray]:
    """PDFium, the reader of a browser: the paths of the page above ``below_mm``, in their order."""
    import ctypes

    import pypdfium2
    import pypdfium2.raw as raw

    document = pypdfium2.PdfDocument(data)
    page = document[0]
    _, height = page.get_size()
    found = []
    for item in page.get_objects():
        if item.type != raw.FPDF_PAGEOBJ_PATH:
            continue
        points = []
        for k in range(raw.FPDFPath_CountSegments(item.raw)):
            segment = raw.FPDFPath_GetPathSegment(item.raw, k)
            x, y = ctypes.c_float(), ctypes.c_float()
            raw.FPDFPathSegment_GetPoint(segment, x, y)
            points.append((x.value / POINTS_PER_MM, (height - y.value) / POINTS_PER_MM))
            if raw.FPDFPathSegment_GetClose(segment):
                points.append(points[0])
        outline = np.array(points)
        if outline[:, 1].max() <= below_mm + 1e-3:
            found.append(outline)
    return found


def worst_mm(sheet: CutSheet, outlines: list[np.ndarray]) -> float:
    """Return how far outlines read back lie off the sheet's, one by one in their order (Hausdorff, both ways)."""
    assert len(outlines) == len(sheet.paths)
    return max(
        float(shapely.hausdorff_distance(shapely.LineString(path.points), shapely.LineString(line), densify=0.2))
        for path, line in zip(sheet.paths, outlines, strict=True)
    )
