"""The workshop: films, the shelf, test cuts and blades, recipes of pressing, and the user's habits."""

from pydantic import Field

from zinnet.base.frozen import Frozen
from zinnet.blanks.catalogue import BlankKinds, shipped_blank_kinds
from zinnet.cutting.settings import Blade, CutTest
from zinnet.data.limits import OwnLimits
from zinnet.films.catalogue import Film, catalogue_films
from zinnet.machines.cutters import Machines, shipped_machines
from zinnet.machines.platens import Presses, shipped_presses
from zinnet.placement.guides import usual_finger_mm
from zinnet.placement.place import Habits
from zinnet.pressing.hem_test import HemTest
from zinnet.pressing.recipes import KeptRecipe, Pressed
from zinnet.workshop.blank_stock import BlankItem
from zinnet.workshop.made import Made
from zinnet.workshop.price_list import PriceList, usual_prices
from zinnet.workshop.stock import StockItem


class Workshop(Frozen):
    """What the user works with."""

    films: tuple[Film, ...]
    habits: Habits
    stock: tuple[StockItem, ...] = ()
    tests: tuple[CutTest, ...] = ()
    blades: tuple[Blade, ...] = ()
    recipes: tuple[KeptRecipe, ...] = ()
    pressed: tuple[Pressed, ...] = ()
    hem_tests: tuple[HemTest, ...] = ()
    made: tuple[Made, ...] = ()
    garments: tuple[BlankItem, ...] = ()
    machines: Machines = Field(default_factory=shipped_machines)
    blanks: BlankKinds = Field(default_factory=shipped_blank_kinds)
    presses: Presses = Field(default_factory=shipped_presses)
    limits: OwnLimits = ()
    prices: PriceList = Field(default_factory=usual_prices)

    def film(self, film_id: str) -> Film | None:
        """Return a film by its id, or None where it is not in stock."""
        return next((film for film in self.films if film.id == film_id), None)


def standard_workshop() -> Workshop:
    """Return the workshop that everybody begins with."""
    return Workshop(films=catalogue_films(), habits=Habits(finger_mm=usual_finger_mm()))
