"""Rules the passes must keep; each finding gives what was measured, the rule, and what to do."""

from collections.abc import Sequence

from foxpath.core.findings import Finding
from foxpath.core.passes.plan import PassPlan
from foxpath.core.passes.ways import GAUGES
from foxpath.core.units import percent


def check_passes(passes: Sequence[PassPlan]) -> list[Finding]:
    """Check value bands, ceilings, order of fat and lean, and the reserve of the last lights."""
    active = [one for one in passes if one.on]
    found = [finding for one in active for finding in _by_itself(one)]
    return found + _fat_over_lean(active) + _opening(active) + _last_lights(active)


def _by_itself(plan: PassPlan) -> list[Finding]:
    """Check one pass: a band, under its ceiling, and something to paint."""
    found = []
    name, key = plan.role.name, plan.role.key
    if plan.l_low >= plan.l_high:
        found.append(
            Finding(
                "must",
                f"{name} has no value to paint with.",
                f"L* {plan.l_low:.0f} to {plan.l_high:.0f} · the dark end must lie below the light end: move one",
                "passes",
                key,
            )
        )
    if plan.l_high > plan.ceiling:
        found.append(
            Finding(
                "must",
                f"{name} goes over its ceiling.",
                f"band to L* {plan.l_high:.0f}, ceiling {plan.ceiling:.0f} · lower the band or raise the ceiling",
                "passes",
                key,
            )
        )
    if not plan.zones:
        found.append(
            Finding(
                "look",
                f"{name} has no part to paint.",
                "every part is left out · paint one of them, or turn the pass off",
                "passes",
                key,
            )
        )
    elif plan.coverage == 0:
        found.append(
            Finding("look", f"{name} lays no paint.", "coverage 0 % · raise it or turn the pass off", "passes", key)
        )
    return found


def _fat_over_lean(active: Sequence[PassPlan]) -> list[Finding]:
    """Check that no pass is leaner, or much thinner, than what it lies over."""
    found = []
    for lower, upper in over_one_another(active):
        if upper.role.fat < lower.role.fat - 1e-6:
            found.append(
                Finding(
                    "must",
                    f"{upper.role.name} is leaner than {lower.role.name} below it.",
                    f"oil {percent(upper.role.fat)} over {percent(lower.role.fat)} · lean over fat may crack: paint it earlier",
                    "passes",
                    upper.role.key,
                )
            )
        # A film over body is what a veil is.
        if upper.role.veil is None and upper.role.thickness < lower.role.thickness - 0.2:
            found.append(
                Finding(
                    "look",
                    f"{upper.role.name} lies thin over thick {lower.role.name.lower()}.",
                    f"body {percent(upper.role.thickness)} over {percent(lower.role.thickness)} · thick over thin holds and shines: paint "
                    "it earlier",
                    "passes",
                    upper.role.key,
                )
            )
    return found


def _opening(active: Sequence[PassPlan]) -> list[Finding]:
    """Check that the range of values opens from pass to pass."""
    # Grounds, backgrounds and restated darks stand beside the opening range; the coat's own passes open it.
    opening = [p for p in active if p.role.act not in {"ground", "background", "restated", "eyes"}]
    # Gauges of the lightest lights stand before the range opens; a veil has no range of its own.
    opening = [p for p in opening if p.role.key != GAUGES and p.role.veil is None]
    found = []
    for lower, upper in over_one_another(opening):
        if upper.ceiling < lower.ceiling:
            found.append(
                Finding(
                    "look",
                    f"{upper.role.name} may not reach the lights below it.",
                    f"ceiling L* {upper.ceiling:.0f} over {lower.ceiling:.0f} · the range should open pass by pass",
                    "passes",
                    upper.role.key,
                )
            )
    return found


def _last_lights(active: Sequence[PassPlan]) -> list[Finding]:
    """Check that the lightest values are left for the highlights."""
    # A ground is covered, a background may be snow, eyes and glazes have no lights of the coat to spend.
    free = {"highlights", "whiskers", "ground", "eyes", "background"}
    spent = [
        p
        for p in active
        if p.role.act not in free
        and p.role.handling != "glaze"
        and p.role.veil is None
        and min(p.l_high, p.ceiling) > 90
    ]
    return [
        Finding(
            "look",
            f"{p.role.name} spends the last lights.",
            f"L* to {min(p.l_high, p.ceiling):.0f} · above 90 is kept for the highlights: lower the band",
            "passes",
            p.role.key,
        )
        for p in spent
    ]


def over_one_another(passes: Sequence[PassPlan]) -> list[tuple[PassPlan, PassPlan]]:
    """Return which pass lies right over which in some zone, each pair (lower, upper) once, in painting order."""
    found: list[tuple[PassPlan, PassPlan]] = []
    last: dict[int, PassPlan] = {}
    everywhere = {zone for one in passes for zone in one.zones}
    for upper in passes:
        # A ground is laid over the whole canvas.
        zones = everywhere if upper.role.act == "ground" else upper.zones
        below = {last[zone].role.key: last[zone] for zone in zones if zone in last}
        found += [(lower, upper) for lower in below.values()]
        last.update(dict.fromkeys(zones, upper))
    return found
