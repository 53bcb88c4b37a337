"""Cut files as DXF R2010 in mm, y up: a layer for each film, polylines with arcs in the order of cutting."""

import io
import re

from zinnet.base.errors import CutError
from zinnet.cutting.paths import CutPath, CutSheet

MILLIMETRES = 4
"""DXF's $INSUNITS for millimetres (AutoCAD DXF reference, header variables)."""
APPID = "ZINNET"


def cut_dxf(sheet: CutSheet) -> str:
    """Return the DXF of a mat, its lower left corner at the origin. Raises :class:`CutError` where it is not sound.

    Each line carries its own name and its kind as extended data of the application ZINNET.

    Parameters
    ----------
    sheet : CutSheet, mm
        Lines as they are cut.

    Returns
    -------
    str
        A DXF of release R2010 in mm.

    Raises
    ------
    CutError
        The audit of the DXF library finds an error.
    """
    from ezdxf.filemanagement import new

    document = new("R2010", units=MILLIMETRES)
    document.appids.add(APPID)
    for film in sheet.films:
        document.layers.add(layer_name(film))
    space = document.modelspace()
    for path in sheet.paths:
        line = space.add_lwpolyline(
            _vertices(path, sheet.height_mm),
            format="xyb",
            close=path.closed,
            dxfattribs={"layer": layer_name(path.film)},
        )
        line.set_xdata(APPID, [(1000, path.name), (1000, path.kind)])
    auditor = document.audit()
    if auditor.has_errors or auditor.has_fixes:
        first = (auditor.errors or auditor.fixes)[0]
        raise CutError(f"The DXF of {sheet.name} is not sound ({first.message}); write another format, and report it.")
    stream = io.StringIO()
    document.write(stream)
    return stream.getvalue()


def layer_name(film: str) -> str:
    """Return a film's id without the letters that DXF keeps to itself."""
    return re.sub(r'[<>/\\":;?*|=`,]', "-", film)


def _vertices(path: CutPath, height_mm: float) -> list[tuple[float, float, float]]:
    """Return the vertices (x, y, bulge to the next one); y up turns every arc the other way."""
    spans = path.spans
    corners = [tuple(path.points[0].tolist()), *(span.end for span in spans)]
    bulges = [-span.bulge for span in spans] + [0.0]
    found = [(x, height_mm - y, bulge) for (x, y), bulge in zip(corners, bulges, strict=True)]
    return found[:-1] if path.closed else found
