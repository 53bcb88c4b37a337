"""The one door through which XML from strangers comes in."""

from xml.etree.ElementTree import Element, ParseError

import defusedxml.ElementTree
from defusedxml.common import DefusedXmlException

from zinnet.base.errors import ArtworkError

MOST_BYTES = 50_000_000


def parse_xml(data: bytes, name: str) -> Element:
    """Return the root of an XML file; entities, external references and huge files are refused."""
    if not data.strip():
        raise ArtworkError(f"{name} is empty; save the artwork again and open that file.")
    if len(data) > MOST_BYTES:
        raise ArtworkError(
            f"{name} has {len(data) / 1e6:.0f} MB; at most {MOST_BYTES / 1e6:.0f} MB are read. Simplify it first."
        )
    try:
        root: Element = defusedxml.ElementTree.fromstring(data, forbid_entities=True, forbid_external=True)
    except DefusedXmlException:
        raise ArtworkError(
            f"{name} declares XML entities, which are not expanded for safety; save it as plain SVG and open that."
        ) from None
    except ParseError as error:
        line, column = error.position
        raise ArtworkError(
            f"{name} is not whole XML: line {line}, column {column} can't be read. Save the artwork again."
        ) from None
    except (ValueError, LookupError):
        raise ArtworkError(f"{name} is not text in a known encoding; save it as SVG in UTF-8.") from None
    return root


def local_name(element: Element) -> str:
    """Return an element's name without its namespace; comments have none."""
    tag = element.tag
    return tag.rpartition("}")[2] if isinstance(tag, str) else ""


def reference(element: Element) -> str:
    """Return the id that an element's ``href`` points at within the file, else an empty string."""
    for key in ("href", "{http://www.w3.org/1999/xlink}href"):
        if key in element.attrib:
            target = element.attrib[key].strip()
            return target[1:] if target.startswith("#") else ""
    return ""
