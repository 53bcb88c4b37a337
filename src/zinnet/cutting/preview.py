"""A picture of a mat as it is cut, as PNG: films in their colours, lines, and where the knife goes lifted."""

import io

import numpy as np

from zinnet.cutting.paths import CutSheet

PIXELS_PER_MM = 4.0
MOST_PIXELS = 6000
PAPER, EDGE, LINE, TRAVEL = "#f6f1e4", "#8a8272", "#26292b", "#c8b48a"


def preview_png(sheet: CutSheet) -> bytes:
    """Return the picture; large mats are drawn smaller, so that no side has more than 6000 pixels."""
    from PIL import Image, ImageDraw

    scale = min(PIXELS_PER_MM, MOST_PIXELS / max(sheet.width_mm, sheet.height_mm))
    size = (max(1, round(sheet.width_mm * scale)), max(1, round(sheet.height_mm * scale)))
    picture = Image.new("RGB", size, PAPER)
    draw = ImageDraw.Draw(picture)
    draw.rectangle((0, 0, size[0] - 1, size[1] - 1), outline=EDGE)
    at = np.array([0.0, sheet.height_mm])
    for path in sheet.paths:
        draw.line([tuple(at * scale), tuple(path.points[0] * scale)], fill=TRAVEL)
        draw.line([tuple(point) for point in path.points * scale], fill=LINE, width=max(1, round(scale / 2)))
        at = path.points[-1]
    buffer = io.BytesIO()
    picture.save(buffer, "PNG", dpi=(scale * 25.4, scale * 25.4))
    return buffer.getvalue()
