"""Stop 2, Zones: the parts that are painted alike, and which lies in front."""

from foxpath.core.zones.kinds import KINDS, Coat, Kind, OwnKind, Prior, kind_of
from foxpath.core.zones.map import ZoneShape, area_cm2, fill, inscribed_mm, label_map
from foxpath.core.zones.order import BorderGrowth, LayingOrder, laying_order, side_words
from foxpath.core.zones.propose import Proposed, propose_parts
from foxpath.core.zones.snap import Cut, cut_part, mend_part
from foxpath.core.zones.trace import Tracer

__all__ = [
    "KINDS",
    "BorderGrowth",
    "Coat",
    "Cut",
    "Kind",
    "LayingOrder",
    "OwnKind",
    "Prior",
    "Proposed",
    "Tracer",
    "ZoneShape",
    "area_cm2",
    "cut_part",
    "fill",
    "inscribed_mm",
    "kind_of",
    "label_map",
    "laying_order",
    "mend_part",
    "propose_parts",
    "side_words",
]
