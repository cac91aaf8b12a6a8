"""The room's air: what a sensor reads behind one small interface, and a stand-in that ships with the program."""

import math
from dataclasses import dataclass
from datetime import datetime
from typing import Protocol

COLDEST, HOTTEST = -20.0, 60.0
"""Degrees Celsius between which a reading is taken for one."""
STEADY = 0.4
"""Deviation of a reading of the stand-in, degrees; of the dampness five times that, per cent."""


@dataclass(frozen=True, slots=True)
class Air:
    """A reading.

    Attributes
    ----------
    celsius : float
    humidity : float
        Per cent, 0 to 100.
    """

    celsius: float
    humidity: float

    def words(self) -> str:
        """Say it, e.g. "19.5 °C, 46 % damp"."""
        return f"{self.celsius:g} °C, {self.humidity:g} % damp"


class Sensor(Protocol):
    """What tells the air of a room."""

    name: str
    """What it is called on the screen."""

    def read(self, moment: datetime) -> Air | None:
        """Return the air now; None where nothing can be read."""
        ...


class StandIn:
    """A made-up room: warm by day and cool at night, dry while it is heated in winter. It says so, and stands in for a real sensor."""

    name = "made-up sensor"

    def __init__(self, celsius: float = 19.5, humidity: float = 48.0) -> None:
        self._celsius, self._humidity = celsius, humidity

    def read(self, moment: datetime) -> Air:
        """Return the air of the made-up room at a local moment; the same moment reads the same."""
        hour = moment.hour + moment.minute / 60
        day = math.cos((hour - 15) / 24 * 2 * math.pi)
        year = math.cos((moment.timetuple().tm_yday - 200) / 365 * 2 * math.pi)
        # Not random: a reading that is taken twice in a minute does not jump.
        minute = int(moment.timestamp() // 60)
        wander = math.sin(minute * 0.61803) + math.sin(minute * 0.1317)
        celsius = self._celsius + 1.8 * day + 2.2 * year + 0.5 * STEADY * wander
        humidity = self._humidity - 3.5 * day + 9.0 * year - 2.5 * STEADY * wander
        return Air(round(celsius, 1), round(min(max(humidity, 5.0), 95.0), 1))


def sound_air(air: Air | None) -> Air | None:
    """Return a reading that can be, None for another: sensors fail by telling the same absurd number."""
    if air is None or not (math.isfinite(air.celsius) and math.isfinite(air.humidity)):
        return None
    return air if COLDEST <= air.celsius <= HOTTEST and 0 < air.humidity <= 100 else None


SENSORS: dict[str, Sensor] = {"stand-in": StandIn()}
"""What can be asked, by key; one that is built in is added here."""


def air_now(key: str, moment: datetime, celsius: float, humidity: float) -> Air:
    """Return what a sensor reads; the given numbers without one, or where it tells nothing that can be."""
    sensor = SENSORS.get(key)
    read = sound_air(sensor.read(moment)) if sensor is not None else None
    return read or Air(celsius, humidity)
