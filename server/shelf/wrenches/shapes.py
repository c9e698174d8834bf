"""Torque wrenches as the API takes and says them."""

from dataclasses import dataclass

from workshop.shapes import upto


@dataclass(frozen=True, kw_only=True)
class WrenchForm:
    """A torque wrench as its scale and its calibration say, everything as typed in its own unit;
    ``accuracy`` in percent of the reading, ``length`` in mm from drive to grip, empty where nobody
    measured it; ``calibrated`` the day of that. ``version`` is the one it replaces; ``id`` 0 is a new
    one."""

    id: int
    version: int
    name: str = upto(60, blank=True)
    unit: str = upto(12, blank=True)
    low: str = upto(20, blank=True)
    high: str = upto(20, blank=True)
    resolution: str = upto(20, blank=True)
    accuracy: str = upto(20, blank=True)
    length: str = upto(20, blank=True, default="")
    calibrated: str = upto(20, blank=True, default="")


@dataclass(frozen=True)
class WrenchCard:
    """A wrench with its form; ``usable`` is what it measures well, in words, ``calibration`` when it was
    calibrated, and whether that is ``past``."""

    form: WrenchForm
    usable: str
    simulated: bool
    calibration: str
    past: bool


@dataclass(frozen=True)
class Wrenches:
    wrenches: list[WrenchCard]
    units: list[str]
