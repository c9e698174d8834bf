"""Torque: what the manual wrote, what to set on which wrench, what a reading means."""

from .plausible import (
    PROOF_STRESS,
    TENSILE_STRENGTH,
    Plausibility,
    plausibility,
    plausible_band,
    preload,
    proof_torque,
)
from .setting import (
    School,
    Setting,
    TorqueVerdict,
    Wrench,
    WrenchSetting,
    adapter_actual,
    adapter_setting,
    as_torque,
    fitting_wrenches,
    judge,
    scale_factor,
    setting,
    wrench_limit,
    wrench_usable,
)
from .spec import TorqueSpec, read_torque
from .thread import Thread, read_thread, stress_area, stress_area_un

__all__ = [
    "PROOF_STRESS",
    "TENSILE_STRENGTH",
    "Plausibility",
    "School",
    "Setting",
    "Thread",
    "TorqueSpec",
    "TorqueVerdict",
    "Wrench",
    "WrenchSetting",
    "adapter_actual",
    "adapter_setting",
    "as_torque",
    "fitting_wrenches",
    "judge",
    "plausibility",
    "plausible_band",
    "preload",
    "proof_torque",
    "read_thread",
    "read_torque",
    "scale_factor",
    "setting",
    "stress_area",
    "stress_area_un",
    "wrench_limit",
    "wrench_usable",
]
