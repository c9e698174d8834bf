"""Density and volume of lubricating oil over temperature."""

from decimal import Decimal
from math import exp

from ..errors import CoreError
from ..guard import guarded
from ..quantity import Kind, parse_single, read_number

K1_LUBRICATING = 0.6278  # kg/m³·°C⁻¹ at base 15 °C, generalized lubricating oils
_LEAST, _MOST = 800.0, 1164.0
_LITRE_BELOW = 2  # kg/m³: nothing liquid is as light, so it is kg/l


@guarded
def volume_correction(rho15: float, t: float) -> float:
    """Volume correction factor from 15 °C to ``t`` °C: ``exp(−αΔT(1 + 0.8αΔT))``, ``α = K1/ρ₁₅``
    [std API MPMS 11.1 / ASTM D1250, generalized lubricating oils; from memory].

    ``rho15`` in kg/m³. Mineral and hydrocarbon oils only; esters and glycols differ.
    Raises CoreError ``fluid.density`` outside 800–1164 kg/m³.
    """
    if not _LEAST <= rho15 <= _MOST:
        raise CoreError("fluid.density", field="density15")
    return _factor(rho15, t)


def _factor(rho15: float, t: float) -> float:
    alpha, dt = K1_LUBRICATING / rho15, t - 15
    return exp(-alpha * dt * (1 + 0.8 * alpha * dt))


@guarded
def density_at(rho15: float, t: float) -> float:
    """Density in kg/m³ at ``t`` °C: ``ρ₁₅·VCF``."""
    return rho15 * volume_correction(rho15, t)


@guarded
def volume_at(volume: float, t_from: float, t_to: float, rho15: float) -> float:
    """A volume measured at ``t_from`` as it stands at ``t_to``: ``V·VCF(from)/VCF(to)``."""
    return volume * volume_correction(rho15, t_from) / volume_correction(rho15, t_to)


@guarded
def density15_from(rho: float, t: float) -> float:
    """The density at 15 °C of an oil weighed at ``t`` °C, kg/m³, by fixed-point iteration."""
    rho15 = rho
    for _ in range(30):
        rho15 = rho / _factor(rho15, t)
    return rho15


def read_density(text: str) -> Decimal:
    """A density at 15 °C as typed, kg/m³: ``870``, ``0.870``, ``0.87 kg/l``, ``870 kg/m³``.

    A bare number below 2 is kg per litre. Raises CoreError as `quantity.parse` does, and
    ``fluid.density`` for what no lubricating oil weighs.
    """
    try:
        light = read_number(text) < _LITRE_BELOW
    except CoreError:
        light = False
    value = parse_single(text, Kind.DENSITY, "kg/l" if light else "kg/m³").low
    if not _LEAST <= value <= _MOST:
        raise CoreError("fluid.density")
    return value
