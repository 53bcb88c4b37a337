"""The commands of ``zinnet``: where each is, and its summary. A command's module is imported when it is called."""

from importlib import import_module
from typing import Any, cast

import typer
from typer.core import TyperCommand, TyperGroup

COMMANDS = {
    "text": ("artwork:text", "Write words as outlines into an SVG, in mm."),
    "trace": ("artwork:trace", "Trace a picture into an SVG of flat colours with curved outlines."),
    "through": (
        "artwork:through",
        "Write a word through a shape: rows of letters that change colour where they cross it.",
    ),
    "name": ("artwork:name", "Write an outlined name: letters, one to three outlines, a second line."),
    "alter": ("artwork:alter", "Do steps to artwork, one after another, and write what comes out as SVG in mm."),
    "inspect": (
        "artwork:inspect",
        "Say what is in artwork: size, colours, counts, what was mended or left out, and what is wrong with it so "
        "wide.",
    ),
    "blanks": (
        "fitting:blanks",
        "List the catalogue of blanks: sizes, measures with typical values, panels and places.",
    ),
    "keep": ("fitting:keep", "Keep a measured blank in the workshop; from then on --blank takes its name."),
    "fit": ("fitting:fit", "Propose size and place of artwork on a blank, and print the numbers as JSON."),
    "rows": (
        "fitting:rows",
        "Say how many motifs fit in rows and columns, where each lies, at what size n fit, with what gap n rows fill.",
    ),
    "laid": (
        "fitting:laid",
        "Say where a piece lies by readings with a ruler, and how to move it; exit 1 where it is not in tolerance.",
    ),
    "template": ("fitting:template", "Write the artwork's outline at life size on sheets of paper, as PDF."),
    "placing": (
        "fitting:placing",
        "Write the placing sheet: every layer's outline at life size with box, centre lines and marks, as PDF.",
    ),
    "apart": (
        "bench:apart",
        "Say how each mat is cut apart: whose each piece is, how large its carrier is trimmed, how far from the film.",
    ),
    "recut": (
        "bench:recut",
        "Cut one piece again by itself, from the smallest film on the shelf that holds it, and write its cut files.",
    ),
    "laysheet": (
        "fitting:laysheet",
        "Write the lay sheet: all that lies on one side at life size, in numbered bands, to lay a group by it, as PDF.",
    ),
    "photo": (
        "photo:app",
        "What a picture with a sheet in it tells: lengths, scraps, how a layer is weeded and laid.",
    ),
    "plan": ("cutting:plan", "Plan a job and write plan.json, findings.json and the cut files."),
    "split": (
        "layers:split",
        "Write one SVG per layer, as worn, and layers.json. With films given, colours that share one are one layer.",
    ),
    "weed": (
        "layers:weed",
        "Say for every layer what must come out in weeding, in which order, and how long it takes.",
    ),
    "nest": (
        "nesting:nest",
        "Nest the pieces of an SVG on scraps, sheets and rolls, scraps first; or all films of a job.",
    ),
    "film": (
        "nesting:film",
        "Say where the film of a job goes: on garments, kept, or lost and how; what it costs, and what is missing.",
    ),
    "checks": ("cutting:checks", "List the catalogue of findings."),
    "check": ("cutting:check", "Print the findings of a job; exit 1 while a stop is open."),
    "cut": ("cutter:cut", "Write the cut files of a job and its job sheet."),
    "send": ("cutter:send", "Send one mat to a cutter; after a break, what is left of it."),
    "cutter": ("cutter:cutter", "Start the stand-in cutter and print its port."),
    "press": (
        "pressing:press",
        "Say how a job is pressed: recipes, steps, positions of the platen, and what could go wrong.",
    ),
    "schedule": (
        "pressing:schedule",
        "Say who and what does which step when, how long it takes, and what holds it up.",
    ),
    "recipe": (
        "pressing:recipe",
        "Type in a film maker's sheet or a recipe of one's own, or show what is known of a film.",
    ),
    "hem": ("pressing:hem", "Say which bars to press on a hem, or write down what became of them."),
    "names": (
        "naming:names",
        "Make a job for a list of names: each fitted to its field, nested together, pressed by a check list.",
    ),
    "quote": ("pricing:quote", "Say what a job costs, what it is sold for, and what would make it cheaper."),
    "order": (
        "ordering:order",
        "Say what an order needs, what of it is there, what is to be bought, and whether it is done in time.",
    ),
    "sheet": (
        "papers:sheet",
        "Write the job sheet: picture, measures, layers, film, mats, steps, times and cost, with boxes to tick.",
    ),
    "tags": ("papers:tags", "Write a care tag for every garment of a job, on sheets of labels."),
    "desktop": (
        "programs:desktop",
        "Put Zinnet among the desktop's programs: entry, icon, .zinnet files, man page, completion for bash.",
    ),
    "testcut": (
        "cutter:try_cut",
        "Say what to set for a film, write down how a test cut weeded, and say what to try next.",
    ),
    "job": ("job:app", "Make a job, add designs to it, set and mend it, and say what it is, without the window."),
    "stock": ("stock:app", "Film on the shelf: rolls, sheets and scraps."),
    "ask": ("asking:app", "Ask what fits, what is missing, and what would do."),
    "log": ("logbook:app", "What was made, with what, and how it did."),
    "workshop": ("workshop:app", "The whole workshop in open files, and what is in it of one's own."),
}
"""Module and function (or group of commands) of each command, and what the list of commands says of it."""


class Commands(TyperGroup):
    """All commands, those of the table made when they are called."""

    def list_commands(self, ctx: Any) -> list[str]:
        """Return the names of all commands, in the order of the work."""
        return [*self.commands, *(name for name in COMMANDS if name not in self.commands)]

    def get_command(self, ctx: Any, cmd_name: str) -> Any:
        """Return a command, imported now; None where there is none of that name."""
        if cmd_name not in self.commands and cmd_name in COMMANDS:
            self.commands[cmd_name] = made(cmd_name)
        return self.commands.get(cmd_name)

    def format_commands(self, ctx: Any, formatter: Any) -> None:
        """Write the list of commands; none of them is imported for it."""
        told = {name: TyperCommand(name, help=summary) for name, (_, summary) in COMMANDS.items()}
        listed = TyperGroup(commands={**self.commands, **told})
        listed.format_commands(ctx, formatter)


def made(name: str) -> TyperCommand | TyperGroup:
    """Return a command of the table."""
    module, _, attribute = COMMANDS[name][0].partition(":")
    found = getattr(import_module(f"zinnet.cli.{module}"), attribute)
    alone = typer.Typer(callback=lambda: None, add_completion=False, rich_markup_mode=None)
    if isinstance(found, typer.Typer):
        alone.add_typer(found, name=name)
    else:
        alone.command(name=name)(found)
    return cast("TyperCommand | TyperGroup", typer.main.get_group(alone).commands[name])
