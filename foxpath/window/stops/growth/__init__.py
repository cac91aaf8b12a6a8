"""Stop 3, Growth: `stop` has bench and gestures; `marks` say more of the growth, `found` lists what it shows, `follow` takes it from
another zone, `files` save and read.
"""

from foxpath.window.stops.growth.stop import GrowthStop

__all__ = ["GrowthStop"]
