"""Veils as films of the painter's own tubes: their mix, what they do to every colour, and what is painted beneath them."""

from collections.abc import Hashable
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F64, Rgb8, frozen
from foxpath.core.colour import difference
from foxpath.core.errors import InputError
from foxpath.core.fingerprint import fingerprint
from foxpath.core.mixes import optics
from foxpath.core.mixes.amounts import film_um
from foxpath.core.mixes.layers import shadow_film, veil_over
from foxpath.core.mixes.recipe import Rack, Recipe, solve
from foxpath.core.mixes.tubes import Tube, table
from foxpath.core.passes import PassPlan
from foxpath.core.rehearsal.films import Film, beneath_film, caught_share, film_shift, ground_labs, lay_film
from foxpath.core.rehearsal.marks import Study, make_study
from foxpath.core.reporting import Progress
from foxpath.derive.frames import map_frame
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.passes.veils import veil_key, veil_of
from foxpath.derive.pictures import picture_key, study_of
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import labels_of
from foxpath.document.model import Project

CLEAR, WORSE = 0.6, 12.0
"""A glaze is mixed of tubes at least so transparent, unless that comes out so much (dE00) farther from its colour."""
RING_MM = 14.0
"""How far beyond a shadow its coat tells what lies beneath it."""


@dataclass(frozen=True, slots=True, eq=False)
class Mixed:
    """A veil's mix.

    Attributes
    ----------
    recipe : Recipe
    lab : (3,) float64
        Laid thick, CIELAB.
    paint : float
        Share of paint in it, the rest clear medium, 0 to 1.
    tubes : tuple of Tube
        Those it could have been mixed of.
    """

    recipe: Recipe
    lab: F64
    paint: float
    tubes: tuple[Tube, ...]

    @property
    def medium(self) -> float:
        """Parts of clear medium to one of paint."""
        return 1 / max(self.paint, 1e-3) - 1


def _rack(results: Results, project: Project) -> Rack:
    """Return the tubes of the studio; all of the table where none is there."""

    def make() -> Rack:
        tubes = project.mixes.usable()
        return Rack(tubes or tuple(table().values()), project.mixes.shown)

    return results.memo.get(("veil rack", fingerprint(project.mixes)), make)


def mix_of(results: Results, project: Project, plan: PassPlan) -> Mixed:
    """Return the mix of a veil, of the painter's tubes."""
    veil = plan.role.veil
    assert veil is not None

    def make() -> Mixed:
        rack = _rack(results, project)
        clear = Rack([t for t in rack.tubes if t.transparency >= CLEAR], rack.shown) if _any_clear(rack) else rack
        glaze, paint = veil.manner == "glaze", veil.strength
        if veil.lab is not None:
            target = np.array(veil.lab, np.float64)
            recipe = _best(rack, clear, target) if glaze else solve(rack, target)
        else:
            inside, around = _shadow(results, project, plan)
            film = film_um(plan.role.thickness) * veil.coats
            recipe, share = shadow_film(clear if glaze else rack, inside, around, film)
            # The strength that is asked for is over what the shadow needs.
            paint = min(share * veil.strength, 1.0)
        return Mixed(recipe, frozen(rack.lab_of(recipe.parts)), paint, tuple(rack.tubes))

    where = veil_key(results, project, plan) if veil.lab is None else None
    thickness = plan.role.thickness
    return results.memo.get(("veil mix", fingerprint(project.mixes), veil.manner, veil.lab, veil.strength, veil.coats, thickness, where), make)  # fmt: skip


def _any_clear(rack: Rack) -> bool:
    return any(tube.transparency >= CLEAR for tube in rack.tubes)


def _best(rack: Rack, clear: Rack, target: F64) -> Recipe:
    try:
        own = solve(clear, target)
    except InputError:
        return solve(rack, target)
    any_tube = solve(rack, target)
    return own if own.away <= any_tube.away + WORSE else any_tube


def _shadow(results: Results, project: Project, plan: PassPlan) -> tuple[F64, F64]:
    """Return the colour in a shadow and that of the same parts around it, CIELAB; both as the reference shows them."""
    import cv2

    frame, share = map_frame(project), veil_of(results, project, plan)
    lab, labels = study_of(results, project).local, labels_of(results, project, map_frame(project))
    within = share > 0.5
    if not within.any():
        middle = np.array([40.0, 4.0, 10.0])
        return middle, middle + (20, 0, 0)
    inside = np.asarray(lab[within].mean(axis=0), np.float64)
    far = cv2.distanceTransform((share < 0.02).astype(np.uint8), cv2.DIST_L2, 3) * frame.cell_mm
    around = (far > 0) & (far < RING_MM) & np.isin(labels, plan.zones)
    outside = np.asarray(lab[around].mean(axis=0), np.float64) if around.any() else inside + (18.0, 0, 0)
    # Where the coat around is no lighter, there is no shadow to glaze: as little as can be.
    outside[0] = max(outside[0], inside[0] + 2.0)
    return inside, outside


def film_key(results: Results, project: Project, plan: PassPlan) -> Hashable:
    """Return the fingerprint of a veil as it is laid."""
    return ("film", veil_key(results, project, plan), fingerprint(project.mixes), plan.role.thickness, plan.zones)


def film_of(results: Results, project: Project, plan: PassPlan) -> Film:
    """Return a veil as the film it is."""
    veil = plan.role.veil
    assert veil is not None

    def make() -> Film:
        rack, mixed = _rack(results, project), mix_of(results, project, plan)
        beneath = results.memo.get(("film grounds", rack.shown), lambda: _grounds(rack.shown))
        parts = rack.parts(mixed.recipe.parts)
        film = film_um(plan.role.thickness)
        looks = veil_over(rack, parts, beneath, film, paint=mixed.paint, coats=veil.coats)
        # A ground no paint can show is seen as the nearest that can: what the film does there is told from that one.
        known = optics.lab_of(optics.seen(beneath, rack.shown))
        looks = looks + (ground_labs() - known)
        shift = film_shift(looks, darkens=veil.manner == "glaze")
        return Film(shift, veil_of(results, project, plan), broken=veil.manner == "scumble")

    return results.memo.get(film_key(results, project, plan), make)


def _grounds(shown: float) -> F64:
    made: F64 = frozen(optics.spectra_of(ground_labs(), shown))
    return made


def films_over(results: Results, project: Project, key: str) -> list[PassPlan]:
    """Return the veils that are laid after a pass, and for which it is made up, in their order."""

    def find() -> list[PassPlan]:
        plans = [plan for plan in passes_of(results, project) if plan.on]
        at = next((k for k, plan in enumerate(plans) if plan.role.key == key), len(plans))
        return [p for p in plans[at + 1 :] if p.role.veil is not None and p.role.veil.made_up and p.zones]

    # Every zone of every pass asks for them.
    return results.once(project, ("films over", key), find)


def beneath_key(results: Results, project: Project, key: str) -> Hashable:
    """Return the fingerprint of the reference as a pass paints it."""
    over = films_over(results, project, key)
    if not over:
        return picture_key(results, project)
    return (picture_key(results, project), tuple(film_key(results, project, plan) for plan in over), project.ways.tooth)


def study_beneath(results: Results, project: Project, key: str) -> Study:
    """Return the reference as the marks of a pass read it: as it must stand for the veils over it to bring it to the reference."""
    over = films_over(results, project, key)
    whole = study_of(results, project)
    if not over:
        return whole

    def make() -> Study:
        frame, lab = map_frame(project), whole.fine
        for plan in reversed(over):
            film = film_of(results, project, plan)
            lab = beneath_film(lab, film, caught_share(film, 1 / frame.cell_mm, project.ways.tooth or "smooth"))
        return make_study(lab, frame)

    return results.memo.get(("study beneath", beneath_key(results, project, key), map_frame(project)), make)


def changed_by_veils(results: Results, project: Project, rgb: Rgb8) -> Rgb8:
    """Return a picture of the whole canvas with the veils over it that change the painting on purpose.

    Parameters
    ----------
    results : Results
    project : Project
    rgb : (H, W, 3) uint8
    """
    own = [
        p
        for p in passes_of(results, project)
        if p.on and p.role.veil is not None and not p.role.veil.made_up and p.zones
    ]
    if not own:
        return rgb
    made = np.ascontiguousarray(rgb).copy()
    for plan in own:
        lay_film(made, film_of(results, project, plan), made.shape[1] / project.canvas.width_mm, project.ways.tooth or "smooth")  # fmt: skip
    return made


def likeness(one: PassPlan, mixed: Mixed) -> float:
    """Return how far a veil's mix is from the colour that was asked for, dE00; 0 where none was."""
    veil = one.role.veil
    return float(difference(mixed.lab, np.array(veil.lab))) if veil is not None and veil.lab is not None else 0.0


@dataclass(frozen=True, slots=True)
class ReadVeil:
    """Find the mix of a veil, for a stop that tells of it."""

    results: Results
    project: Project
    key: str

    def __call__(self, progress: Progress) -> tuple[Project, str, Mixed | None]:
        """Return the project, the veil's key and its mix; None where it lies nowhere. Raises `Cancelled`."""
        progress.at(0, "mixing the veil")
        plan = next((p for p in passes_of(self.results, self.project) if p.role.key == self.key), None)
        mixed = mix_of(self.results, self.project, plan) if plan is not None and plan.role.veil is not None else None
        return self.project, self.key, mixed
