"""Reading artwork of any kind that Zinnet knows, by what the file is, whatever its name says."""

from pathlib import PurePath

from zinnet.artwork.dxf import read_dxf
from zinnet.artwork.model import Artwork
from zinnet.artwork.svg.reader import read_svg
from zinnet.artwork.svg.xml_guard import MOST_BYTES
from zinnet.base.errors import ArtworkError
from zinnet.base.stages import stage

PAGES = {b"%PDF": "PDF", b"%!PS": "EPS or PostScript", b"\xc5\xd0\xd3\xc6": "EPS"}
PICTURES = {b"\x89PNG": "PNG", b"\xff\xd8\xff": "JPEG", b"RIFF": "WebP", b"GIF8": "GIF", b"BM": "BMP"}


@stage(most=64)
def read_artwork(data: bytes, name: str = "The artwork", blend_colours: int = 1) -> Artwork:
    """Return the artwork of an SVG or a DXF file; a blend becomes so many plain colours.

    Raises :class:`ArtworkError` where the file is of another kind, with what to do, or can't be read.
    """
    if len(data) > MOST_BYTES:
        raise ArtworkError(f"{name} has {len(data) / 1e6:.0f} MB; at most {MOST_BYTES / 1e6:.0f} are read.")
    for magic, kind in PAGES.items():
        if data.startswith(magic):
            raise ArtworkError(f"{name} is {kind}, a page and not a drawing; export it as SVG or DXF and open that.")
    for magic, kind in PICTURES.items():
        if data.startswith(magic):
            first = "" if kind in ("PNG", "JPEG", "WebP") else "save it as PNG, JPEG or WebP, then "
            raise ArtworkError(f"{name} is a {kind} picture, which has no outline to cut; {first}trace it.")
    if PurePath(name).suffix.lower() == ".dxf" or _looks_like_dxf(data):
        return read_dxf(data, name)
    return read_svg(data, name, blend_colours)


def _looks_like_dxf(data: bytes) -> bool:
    head = data[:200].replace(b"\r", b"").split(b"\n")
    return data.startswith(b"AutoCAD Binary DXF") or (
        len(head) > 1 and head[0].strip() in (b"0", b"999") and (b"SECTION" in data[:400])
    )
