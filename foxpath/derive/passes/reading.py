"""What is said of the passes: their plan, their cards, what other schools would take, and in which order zones are laid."""

from dataclasses import dataclass, field

from foxpath.core.findings import Finding
from foxpath.core.passes import PassPlan, check_passes
from foxpath.core.reporting import SILENT, Progress
from foxpath.core.units import count_words, mm_words
from foxpath.core.zones import LayingOrder
from foxpath.derive.lengths.facts import facts_of
from foxpath.derive.passes.cards import pass_cards
from foxpath.derive.passes.laying import both_ways, laying_of
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.passes.rules import plan_findings
from foxpath.derive.passes.schools import SchoolReading, compare_schools
from foxpath.derive.results import Results
from foxpath.document.model import Project


@dataclass(frozen=True, slots=True, eq=False)
class PassesReading:
    """The planned passes in their order, those turned off included."""

    passes: tuple[PassPlan, ...] = ()


@dataclass(frozen=True, slots=True, eq=False)
class PassesClose:
    """What only the Passes stop shows.

    Attributes
    ----------
    cards : dict of role key to sentences
        What to do in each pass, a sentence a part.
    schools : tuple of SchoolReading
        What each school would take.
    """

    cards: dict[str, tuple[str, ...]] = field(default_factory=dict)
    schools: tuple[SchoolReading, ...] = ()


@dataclass(frozen=True, slots=True, eq=False)
class LayingClose:
    """In which order zones are painted within a pass; None before it has been read."""

    laying: LayingOrder | None = None


def read_passes(results: Results, project: Project, progress: Progress = SILENT) -> PassesReading:
    """Return the passes."""
    progress.at(0, "planning the passes")
    return PassesReading(passes_of(results, project))


def close_passes(results: Results, project: Project, progress: Progress = SILENT) -> PassesClose:
    """Return cards and schools."""
    progress.at(0, "writing the cards")
    cards = {plan.role.key: pass_cards(results, project, plan) for plan in passes_of(results, project)}
    progress.at(0.5, "comparing the schools")
    return PassesClose(cards, compare_schools(results, project))


def close_laying(results: Results, project: Project, progress: Progress = SILENT) -> LayingClose:
    """Return the laying order. Raises `Cancelled`."""
    return LayingClose(laying_of(results, project, progress))


def pass_findings(results: Results, project: Project, progress: Progress = SILENT) -> list[Finding]:
    """Return what is wrong with the passes, with brushes that serve none, and with the laying order."""
    progress.at(0, "planning the passes")
    return [
        *both_ways(results, project),
        *_fine_hairs(results, project),
        *check_passes(passes_of(results, project)),
        *plan_findings(results, project),
    ]


def _fine_hairs(results: Results, project: Project) -> list[Finding]:
    """Name the parts whose hairs are finer than the kit's finest mark, and those no brush fits into."""
    zones = project.back_to_front()
    coat = next((plan for plan in passes_of(results, project) if plan.role.act == "lights"), None)
    found: list[Finding] = []
    if coat is None:
        return found
    thin = {k: c for k, c in coat.brushes.items() if c.made_as != "hair" and zones[k].kind_of().hair}
    if thin:
        worst = max(thin, key=lambda k: thin[k].mark_mm)
        hints = sum(c.made_as == "hint" for c in thin.values())
        become = f"clumps, and {count_words(hints, 'hint')}" if hints else "clumps"
        found.append(
            Finding(
                "look",
                f"Hairs of {_named([zones[k].name for k in thin])} are finer than your finest brush.",
                f"{thin[worst].why} · they are painted as {become}; add a finer liner, or a larger canvas",
                "lengths",
                zones[worst].id,
            )
        )
    none = [k for k in coat.zones if k not in coat.brushes]
    if none:
        room = min(facts_of(results, project)[k].inscribed_mm for k in none)
        found.append(
            Finding(
                "look",
                f"No brush of your kit fits into {_named([zones[k].name for k in none])}.",
                f"{mm_words(room)} at its widest · add a smaller brush, or join the part to its neighbour",
                "lengths",
                zones[none[0]].id,
            )
        )
    return found


def _named(names: list[str]) -> str:
    """Write one or two names, or one and how many more."""
    low = [name.lower() for name in names]
    if len(low) <= 2:
        return " and ".join(low)
    return f"{low[0]} and {len(low) - 1} more"
