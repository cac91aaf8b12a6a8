"""The drills, a module each, and the list of them; a new one is entered here."""

from foxpath.core.errors import InputError
from foxpath.core.practice.drill import Drill
from foxpath.core.practice.drills.addition import AdditionDrill
from foxpath.core.practice.drills.big import BigBrushDrill
from foxpath.core.practice.drills.black import BlackDrill
from foxpath.core.practice.drills.colour import ColourDrill
from foxpath.core.practice.drills.critique import CritiqueDrill
from foxpath.core.practice.drills.edge import EdgeDrill, LoseDrill
from foxpath.core.practice.drills.eye import EyeDrill
from foxpath.core.practice.drills.glint import GlintDrill
from foxpath.core.practice.drills.grey import GreyDrill
from foxpath.core.practice.drills.growth import GrowthDrill
from foxpath.core.practice.drills.illusion import IllusionDrill
from foxpath.core.practice.drills.lights import LightsDrill
from foxpath.core.practice.drills.match import MatchDrill
from foxpath.core.practice.drills.midline import MidlineDrill
from foxpath.core.practice.drills.over import OverDrill
from foxpath.core.practice.drills.pile import PileDrill
from foxpath.core.practice.drills.predict import OverDryDrill, OverWetDrill, WhiteDrill
from foxpath.core.practice.drills.relation import RelationDrill, SubtleDrill
from foxpath.core.practice.drills.repair import RepairDrill
from foxpath.core.practice.drills.simplify import SimplifyDrill
from foxpath.core.practice.drills.strength import StrengthDrill
from foxpath.core.practice.drills.three import ThreeDrill
from foxpath.core.practice.drills.wetness import WetnessDrill, WindowDrill

DRILLS: tuple[Drill, ...] = (
    GrowthDrill(),
    OverDrill(),
    MatchDrill(),
    RelationDrill(),
    SubtleDrill(),
    ThreeDrill(),
    ColourDrill(),
    IllusionDrill(),
    StrengthDrill(),
    EdgeDrill(),
    LoseDrill(),
    EyeDrill(),
    GlintDrill(),
    MidlineDrill(),
    PileDrill(),
    AdditionDrill(),
    BlackDrill(),
    GreyDrill(),
    WhiteDrill(),
    OverDryDrill(),
    OverWetDrill(),
    WetnessDrill(),
    WindowDrill(),
    RepairDrill(),
    SimplifyDrill(),
    BigBrushDrill(),
    LightsDrill(),
    CritiqueDrill(),
)
"""Every drill: what is seen first, then what is mixed, then what is decided."""


def drill_called(key: str) -> Drill:
    """Return a drill by its key. Raises `InputError` when there is none."""
    found = next((one for one in DRILLS if one.key == key), None)
    if found is None:
        raise InputError(f"There is no drill “{key}”.", f"Choose one of: {', '.join(one.key for one in DRILLS)}.")
    return found
