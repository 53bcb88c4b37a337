"""Tote bags for a list of names."""

from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.source import TextArt
from zinnet.bench.document import Document
from zinnet.blanks.model import BlankSpec, Measure
from zinnet.job.edits import set_names
from zinnet.job.model import Design, Job
from zinnet.job.names.model import NameField, NameList, NameRow
from zinnet.nesting.model import NestSpec
from zinnet.steps.model import Join
from zinnet.workshop.model import standard_workshop

NAMES = ("Ada", "Bo", "Cleo Ray", "Donnatella", "Eli", "Fern")


def bags(words=NAMES, *, text="{name}", font="dancing-script", sizing="one size", steps=(Join(),), **fields):
    """Return the document of tote bags 9.5 in wide, one for each name."""
    source = TextArt(text=TextSpec(text=text, font=font, colour="#8a2f3c"))
    job = Job(
        title="Tote bags",
        blank=BlankSpec(kind="tote", size="one", measured=(Measure(name="width", mm=241.3),)),
        designs=(Design(source=source, steps=steps),),
        nesting=NestSpec(mat="12x24in"),
    )
    document = Document(standard_workshop(), job)
    rows = tuple(NameRow(values=(word,)) for word in words)
    field = NameField(design=0, sizing=sizing, **fields)
    document.apply(set_names(NameList(columns=("name",), rows=rows, fields=(field,))))
    return document
