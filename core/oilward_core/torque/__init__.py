"""Torque: what the manual wrote, what to set on which wrench, what a reading means."""

from .plausible import Plausibility, plausibility, plausible_band, proof_torque, stress_area
from .setting import (
    School,
    Setting,
    TorqueVerdict,
    Wrench,
    WrenchSetting,
    adapter_setting,
    as_torque,
    fitting_wrenches,
    judge,
    scale_factor,
    setting,
)
from .spec import TorqueSpec, read_torque

__all__ = [
    "Plausibility",
    "School",
    "Setting",
    "TorqueSpec",
    "TorqueVerdict",
    "Wrench",
    "WrenchSetting",
    "adapter_setting",
    "as_torque",
    "fitting_wrenches",
    "judge",
    "plausibility",
    "plausible_band",
    "proof_torque",
    "read_torque",
    "scale_factor",
    "setting",
    "stress_area",
]
