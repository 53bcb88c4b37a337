"""Where a design comes from: a file, a traced picture, a text, or an assistant's recipe."""

from hashlib import sha256
from typing import Annotated, Literal, Self

from pydantic import Field

from zinnet.artwork.lettering.outlined_name import OutlinedNameSpec, outlined_name
from zinnet.artwork.lettering.text import TextSpec, text_artwork
from zinnet.artwork.lettering.word_through import WordThroughSpec, word_through
from zinnet.artwork.model import Artwork
from zinnet.artwork.page import whole
from zinnet.artwork.painted import lines_from_open, outline_region, rough_extent
from zinnet.artwork.read import read_artwork
from zinnet.artwork.tracing.picture import picture_kind
from zinnet.artwork.tracing.trace import TraceSpec, trace_picture
from zinnet.artwork.tracing.whole import whole_picture
from zinnet.base.errors import ArtworkError
from zinnet.base.frozen import Frozen
from zinnet.base.stages import stage
from zinnet.geometry.region import Region

MOST_LETTERS = 24
"""So long is what a design is called in lists."""


class ArtworkFile(Frozen):
    """The original file, byte for byte; in a job file the bytes lie beside ``job.json``."""

    name: str
    sha256: str
    data: bytes = Field(repr=False, exclude=True)

    @classmethod
    def of(cls, name: str, data: bytes) -> Self:
        """Return the artwork file of these bytes."""
        return cls(name=name, sha256=sha256(data).hexdigest(), data=data)


class FileArt(Frozen):
    """A drawing as a file: SVG or DXF.

    Its blends are flattened to so many colours each; filled outlines that do not close may be taken as lines, and what
    lies beside its page may be taken in.
    """

    kind: Literal["file"] = "file"
    file: ArtworkFile
    blend_colours: int = Field(default=1, ge=1, le=12)
    open_as_lines: bool = False
    whole: bool = False


class PictureArt(Frozen):
    """A picture and how it is traced, where it does not stay one."""

    kind: Literal["picture"] = "picture"
    file: ArtworkFile
    trace: TraceSpec = TraceSpec()


class TextArt(Frozen):
    """A text that stays one."""

    kind: Literal["text"] = "text"
    file: None = None
    text: TextSpec


class WordThroughArt(Frozen):
    """Rows of a word that cross a shape; the shape may come from a file."""

    kind: Literal["word-through"] = "word-through"
    file: ArtworkFile | None = None
    word: WordThroughSpec


class OutlinedNameArt(Frozen):
    """A name with one or two outlines."""

    kind: Literal["outlined-name"] = "outlined-name"
    file: None = None
    name: OutlinedNameSpec


Source = Annotated[
    FileArt | PictureArt | TextArt | WordThroughArt | OutlinedNameArt,
    Field(discriminator="kind"),
]


def source_of(name: str, data: bytes) -> FileArt | PictureArt:
    """Return the source that a file's bytes are: a picture to be traced, or a drawing."""
    file = ArtworkFile.of(name, data)
    return PictureArt(file=file) if picture_kind(data) is not None else FileArt(file=file)


def settled_picture(source: Source, *, printed: bool, stepped: bool) -> Source:
    """Return a source with the question settled whether a picture stays one.

    Where that is left to the blank it does where it is printed, unless steps are done to it, which need outlines.
    """
    if not isinstance(source, PictureArt) or source.trace.taken == "traced":
        return source
    whole = not stepped and (printed or source.trace.taken == "whole")
    trace = source.trace.model_copy(update={"taken": "whole" if whole else "traced"})
    return source.model_copy(update={"trace": trace})


LETTERING = (TextArt, OutlinedNameArt, WordThroughArt)
"""Sources whose words are known."""


def words_of(source: Source) -> str:
    """Return the words of a source, as they are typed; empty where none are known."""
    match source:
        case TextArt():
            return source.text.text
        case OutlinedNameArt():
            return f"{source.name.name} {source.name.second}"
        case WordThroughArt():
            return source.word.word
    return ""


def is_sized(source: Source) -> bool:
    """Tell whether a source has lengths in mm, so that it is made anew for every width."""
    return isinstance(source, WordThroughArt | OutlinedNameArt)


def source_name(source: Source) -> str:
    """Return what to call a source."""
    match source:
        case TextArt():
            return source.text.text.replace("\n", " ")
        case OutlinedNameArt():
            return source.name.name
        case WordThroughArt():
            return f"{source.word.word} through a shape"
    return source.file.name


def own_name(source: Source) -> str:
    """Return what a design is called in lists: its words, or its file without ending, shortened."""
    name = source_name(source)
    if source.file is not None and not isinstance(source, WordThroughArt):
        name = name.rpartition(".")[0] or name
    return name if len(name) <= MOST_LETTERS else f"{name[: MOST_LETTERS - 1].rstrip()}…"


@stage(most=64)
def artwork_of(source: Source, width_mm: float = 200.0) -> Artwork:
    """Return the artwork of a source; one that has lengths in mm is made for a width.

    Raises :class:`ArtworkError` where it can't be read or made.
    """
    match source:
        case FileArt():
            artwork = read_artwork(source.file.data, source.file.name, source.blend_colours)
            artwork = whole(artwork) if source.whole else artwork
            return lines_from_open(artwork) if source.open_as_lines else artwork
        case PictureArt() if source.trace.taken == "whole":
            return whole_picture(source.file.data, source.trace.life_width_mm, source.file.name)
        case PictureArt():
            return trace_picture(source.file.data, source.trace, source.file.name)
        case TextArt():
            return text_artwork(source.text)
        case OutlinedNameArt():
            return outlined_name(source.name, width_mm)
        case WordThroughArt():
            shape = None if source.file is None else _silhouette(source.file)
            return word_through(source.word, width_mm, shape)


@stage(most=8)
def _silhouette(file: ArtworkFile) -> Region:
    artwork = read_artwork(file.data, file.name)
    if not artwork.shapes:
        raise ArtworkError(
            f"{file.name} holds only a picture, no shape for a word to cross; trace it, or choose another."
        )
    region = outline_region(artwork, rough_extent(artwork) / 20_000)
    if region.is_empty:
        raise ArtworkError(f"{file.name} holds no shape for a word to cross; choose another file.")
    return region
