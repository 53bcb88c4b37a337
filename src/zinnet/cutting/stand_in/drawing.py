"""What the stand-in cut, as SVG: every stroke in mm, y turned down."""

from collections.abc import Sequence

from zinnet.cutting.stand_in.head import Stroke


def strokes_svg(strokes: Sequence[Stroke]) -> str:
    """Return the strokes in the box around them."""
    points = [point for stroke in strokes for point in stroke.points] or [(0.0, 0.0)]
    wide, high = max(max(x for x, _ in points), 1.0), max(max(y for _, y in points), 1.0)
    lines = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:.3f}mm" height="{high:.3f}mm" '
        f'viewBox="0 0 {wide:.3f} {high:.3f}">\n<g fill="none" stroke="#000000" stroke-width="0.1">\n'
    ]
    for stroke in strokes:
        data = " L".join(f"{x:.3f} {high - y:.3f}" for x, y in stroke.points)
        lines.append(f'<path d="M{data}"/>\n')
    return "".join([*lines, "</g>\n</svg>\n"])
