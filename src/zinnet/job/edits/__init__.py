"""Edits: each makes a new job from an old one and has the name that the undo menu shows."""

from zinnet.job.edits.artwork import (
    add_source,
    add_step,
    change_step,
    flatten_blends,
    move_step,
    open_outlines_as_lines,
    remove_step,
    retype,
    set_recipe,
    set_source,
    take_embedded,
    take_in_whole,
)
from zinnet.job.edits.blank import (
    change_kind,
    choose_blank,
    drop_keep_out,
    keep_off,
    set_blank,
    set_blank_colour,
    set_measure,
)
from zinnet.job.edits.by_hand import held_copies, move_pieces, nest_again
from zinnet.job.edits.cut import (
    confirm,
    say_loaded,
    set_cutting,
    set_film_settings,
)
from zinnet.job.edits.designs import add_design, open_artwork, remove_design, set_group
from zinnet.job.edits.details import mends_of
from zinnet.job.edits.edit import Edit, one_step
from zinnet.job.edits.films import (
    choose_film,
    choose_pairs,
    derive_pair,
    derive_side,
    join_outlines,
    override_side,
    press_in_order,
    set_layers,
)
from zinnet.job.edits.names import drop_names, set_name_field, set_names
from zinnet.job.edits.nest import (
    pass_finding,
    record_cut,
    set_copies,
    set_nesting,
    set_title,
    set_unit,
    take_back_cut,
    take_back_pass,
)
from zinnet.job.edits.order import set_order, set_order_lines
from zinnet.job.edits.places import (
    choose_place,
    choose_platen,
    place_at,
    record_readings,
    set_placement,
)
from zinnet.job.edits.press import choose_recipe, set_pressing
from zinnet.job.edits.price import set_price
from zinnet.job.edits.sizes import add_size, add_sizes, follow_family, remove_size, set_sizes
from zinnet.job.edits.weeding import tick_weeded

__all__ = [
    "Edit",
    "add_design",
    "add_size",
    "add_sizes",
    "add_source",
    "add_step",
    "change_kind",
    "change_step",
    "choose_blank",
    "choose_film",
    "choose_pairs",
    "choose_place",
    "choose_platen",
    "choose_recipe",
    "confirm",
    "derive_pair",
    "derive_side",
    "drop_keep_out",
    "drop_names",
    "flatten_blends",
    "follow_family",
    "held_copies",
    "join_outlines",
    "keep_off",
    "mends_of",
    "move_pieces",
    "move_step",
    "nest_again",
    "one_step",
    "open_artwork",
    "open_outlines_as_lines",
    "override_side",
    "pass_finding",
    "place_at",
    "press_in_order",
    "record_cut",
    "record_readings",
    "remove_design",
    "remove_size",
    "remove_step",
    "retype",
    "say_loaded",
    "set_blank",
    "set_blank_colour",
    "set_copies",
    "set_cutting",
    "set_film_settings",
    "set_group",
    "set_layers",
    "set_measure",
    "set_name_field",
    "set_names",
    "set_nesting",
    "set_order",
    "set_order_lines",
    "set_placement",
    "set_pressing",
    "set_price",
    "set_recipe",
    "set_sizes",
    "set_source",
    "set_title",
    "set_unit",
    "take_back_cut",
    "take_back_pass",
    "take_embedded",
    "take_in_whole",
    "tick_weeded",
]
