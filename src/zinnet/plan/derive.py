"""The pipeline: from the job and the workshop to the findings, stage by stage, in the order of the work."""

from collections.abc import Mapping

from zinnet.data.limits import use_limits
from zinnet.job.model import Job
from zinnet.nesting.model import Layout
from zinnet.plan.close_calls import settled
from zinnet.plan.composed import compose_garments, compose_named
from zinnet.plan.cut_parts import cut_requests
from zinnet.plan.film_edges import edges_of
from zinnet.plan.findings.run import find
from zinnet.plan.fitting import fitting_of
from zinnet.plan.loading import cutting_of, loaded_mats
from zinnet.plan.model import Plan
from zinnet.plan.named import name_garments
from zinnet.plan.nested_ways import Cut
from zinnet.plan.nests import lay_out, nested_mats, shelf_of
from zinnet.plan.parted import film_ways, lettered_designs, rates_of, with_apart
from zinnet.plan.presses import press_garments, pressing_of
from zinnet.plan.sizes import fit_garments
from zinnet.plan.trims import trim_list
from zinnet.workshop.model import Workshop


def derive(job: Job, workshop: Workshop, layouts: Mapping[str, Layout] | None = None, *, nests: bool = True) -> Plan:
    """Return the plan of a job.

    Every line below is a stage, and its arguments are all that it reads. Most are kept by that in the cache in use
    (:mod:`zinnet.base.stages`), so that an edit costs what it touches and no more.

    Parameters
    ----------
    job, workshop
        What the user decided, and what there is to work with.
    layouts
        The nests made so far, by the key of their task; pieces without one are not on any mat yet.
    nests
        Whether pieces are nested; without, the plan has no mats and finds nothing about them.

    Raises
    ------
    ZinnetError
        Where the job can't be made sense of.

    Examples
    --------
    >>> from zinnet.workshop.model import standard_workshop
    >>> [garment.size for garment in derive(Job(), standard_workshop()).garments]
    ['adult-m']
    """
    use_limits(workshop.limits)
    with workshop.blanks.in_use():
        return _derive(job, workshop, layouts or {}, nests=nests)


def _derive(job: Job, workshop: Workshop, layouts: Mapping[str, Layout], *, nests: bool) -> Plan:
    nesting, bed = job.nesting, workshop.machines.mat(job.nesting.mat)
    fitting = fitting_of(job, workshop)
    garments = compose_garments(job.layers, workshop.films, fit_garments(fitting))
    named = compose_named(job.layers, workshop.films, garments, name_garments(fitting, garments))

    requests = cut_requests(garments, named, job.layers.marks, nesting.cut_already) if nests else ()
    shelf = shelf_of(job, workshop)
    cut = Cut(requests, lettered_designs(job), job.layers.join_outlines, bed, shelf, edges_of(job, workshop))
    rates = rates_of(job, workshop)
    calls = settled(film_ways(requests, nesting, bed, rates, cut.lettered), nesting, rates, layouts, cut.nests)
    garments = with_apart(garments, cut.apart(calls.ways, nesting))
    laid_out = lay_out(cut.nests(calls.ways, nesting), layouts, nesting)
    mats = nested_mats(laid_out)

    trims = trim_list(mats, share=nesting.share_mats)
    cutting = cutting_of(job, workshop)
    loads = loaded_mats(trims, cutting)

    presses = press_garments(pressing_of(job, workshop), garments)

    plan = Plan(
        job=job,
        workshop=workshop,
        garments=garments,
        named=named,
        shelf=shelf,
        ways=calls.ways,
        trials=calls.trials,
        nests=laid_out,
        mats=mats,
        trims=trims,
        cutting=cutting,
        loads=loads,
        presses=presses,
    )
    return find(plan)
