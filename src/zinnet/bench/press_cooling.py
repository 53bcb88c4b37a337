"""How hot a garment is about now that cools, by an estimate."""

from zinnet.bench.press_run import PressRun
from zinnet.plan.press_cards import Card
from zinnet.pressing.cooling import temperature_after


def cooled_c(run: PressRun, card: Card) -> float | None:
    """Return how hot a garment is about now that cools, by an estimate, in degC."""
    waiting = next((k for k in range(card.step_index, -1, -1) if card.press.steps[k].kind in ("wait", "cool")), None)
    if waiting is None:
        return None
    heats = [step.heat for step in card.press.steps[:waiting] if step.heat is not None]
    timer = run.timers.get(f"{run.key}/{card.number}.{waiting}")
    if timer is None or not heats or heats[-1].heat_c is None:
        return None
    work = card.press.works[0]
    return temperature_after(heats[-1].heat_c, timer.gone_s(run.clock()), cold_plate=work.spec.cold_plate)
