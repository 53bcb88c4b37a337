"""What is said of what the reader of SVG found, mended or left out."""

from zinnet.artwork.model import RemarkCode

MESSAGES: dict[RemarkCode, str] = {
    "picture": "a picture, which has no outline to cut; trace it",
    "text": "text along a path, which is left out; turn it into outlines in the program that made it",
    "blend": "a gradient, pattern or filter, shown as its mean colour",
    "open-outline": "an outline that does not close; it was filled as if closed",
    "clipped": "a mask that fades; it was cut where it covers half",
    "no-size": "no physical size is stated",
    "missing-glyph": "letters that the font lacks",
    "flattened": "a blend flattened to plain colours",
    "left-out": "an element that can't be cut and was left out",
    "mended": "an outline with an error in it, read up to the error",
}
