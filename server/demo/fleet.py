"""The demo's invented fleet: an island harbour workshop. Nothing here is a real make or number.

Values are written as a manual would give them; the loader reads them with the core.
"""

from dataclasses import dataclass

PEOPLE = (
    ("mira", "Mira", "technician", "harbour-mira"),
    ("oda", "Oda", "lead", "harbour-oda"),
    ("piet", "Piet", "reader", "harbour-piet"),
)
WORKSHOP = "Skarholm Harbour Workshop"

# name, grade, friction class, serves, bottle
FLUIDS = (
    ("Skarholm Amber", "20W-50, MA2", "MA2", "engine", "1 qt"),
    ("Skarholm Straw", "5W-40, no clutch in the sump", "", "engine", "1 l"),
    ("Tidewater Bench 40", "10W-40, MA2", "MA2", "engine", "1 l"),
    ("Tidewater Bench 30", "10W-30, MB", "MB", "engine", "800 ml"),
    ("Old Mole 50", "SAE 50", "", "engine, dry sump", "1 l"),
    ("Plate & Chain", "primary lubricant", "MA2", "primary", "1 qt"),
    ("Cogwork 90", "75W-90, GL-4", "", "gearbox", "500 ml"),
    ("Crownwheel 90", "75W-90, GL-5", "", "final drive", "500 ml"),
)

# name, unit, low, high, resolution, accuracy, simulated
WRENCHES = (
    ("Small click wrench", "lbf·in", "30", "250", "5", "0.06", False),
    ("Digital wrench (simulated)", "N·m", "8", "60", "0.5", "0.04", True),
    ("Long click wrench", "N·m", "40", "200", "1", "0.04", False),
)


@dataclass(frozen=True)
class Plug:
    """A fastener: role, place, thread, drive, torque as written, seal, magnet, soft thread."""

    role: str
    place: str
    thread: str
    drive: str
    torque: str
    seal: str = ""
    magnet: bool = False
    soft: bool = True


@dataclass(frozen=True)
class Tank:
    """A reservoir of a sheet. ``values`` maps a value's name to the manual's words."""

    key: str
    kind: str
    label: str
    rule: str
    fluid: str
    values: dict[str, str]
    plugs: tuple[Plug, ...] = ()
    gauge: str = ""
    attitude: str = ""


@dataclass(frozen=True)
class Past:
    """A service in the past: days ago, km (and hours), amounts in ml, plug parts, oil looks."""

    tank: str
    days: int
    km: int
    took: int | None
    drained: int | None = None
    parts: tuple[tuple[str, str, float], ...] = ()
    oil: tuple[str, ...] = ("dark",)
    hours: int | None = None
    variant: str = "with filter"
    first: bool = False


@dataclass(frozen=True)
class Machine:
    """A bike with its model and its sheet."""

    make: str
    model: str
    year: int
    layout: str
    cc: int
    name: str
    owner: str
    use: str
    unit: str
    km: int
    manual: str
    tanks: tuple[Tank, ...]
    past: tuple[Past, ...] = ()
    new_days: int | None = None
    hours: int | None = None
    severity: str = "1"


def forks(quantity: str, every: str) -> tuple[Tank, ...]:
    """Two legs, set by air gap: not drained through a plug."""
    values = {"capacity.dry": quantity, "repeat.km": every, "repeat.months": "36 months"}
    return tuple(
        Tank(f"fork {side}", "fork leg", f"fork, {side}", "air gap", "fork oil, 23 cSt", values)
        for side in ("left", "right")
    )


COLOSSINE = Machine(
    "Brackwell", "Colossine 1640", 2018, "V-twin, belt", 1640,
    "Grey Heron", "Pilot station", "touring", "mi", 61_240, "Colossine workshop manual",
    (
        Tank(
            "engine", "engine", "engine", "level", "20W-50, MA2",
            {
                "capacity.drain only": "3.35 qt",
                "capacity.with filter": "3.65 qt",
                "capacity.dry": "4.1 qt",
                "level.between": "17 oz",
                "level.run": "2 min",
                "level.settle": "3 min",
                "prefill": "5 oz",
                "first.km": "600 mi",
                "first.months": "2 months",
                "repeat.km": "4500 mi",
                "repeat.months": "12 months",
            },
            (
                Plug(
                    "drain plug", "Under the crankcase, left, behind the front cross-member",
                    "M14x1.5", "17 mm socket", "18-25 ft-lb", "crush washer 14 mm", True,
                ),
                Plug("fill plug", "Right case, beside the rear cylinder", "M30x1.5", "by hand", "hand tight", "O-ring 28 mm"),
                Plug("filter", "Front of the crankcase, pointing forward", "M20x1.5", "cap wrench, 14 flutes", "3/4 turn", "its own gasket"),
            ),
            "sight glass", "upright",
        ),
        Tank(
            "primary", "primary", "primary", "exact", "primary lubricant",
            {"capacity.drain only": "34 oz", "repeat.km": "9000 mi", "repeat.months": "24 months"},
            (
                Plug("drain plug", "Bottom of the left outer cover", "M12x1.5", "hexalobular T40", "150-200 in-lb", "O-ring 12 mm", True),
                Plug("fill plug", "Clutch cover, upper half", "M6", "hexalobular T27", "85-110 in-lb", "cover seal"),
            ),
        ),
        Tank(
            "gearbox", "gearbox", "gearbox", "level", "75W-90, GL-4",
            {
                "capacity.drain only": "27 oz", "initial": "24 oz", "level.between": "3 oz",
                "level.run": "1 min", "level.settle": "5 min",
                "repeat.km": "11000 mi", "repeat.months": "24 months",
            },
            (
                Plug("drain plug", "Under the gearbox, right, through the cut-out in the frame", "M14x1.5", "8 mm hex key", "16-22 ft-lb", "O-ring 14 mm", True),
                Plug("fill plug", "Right, above the footrest, holds the dipstick", "M22x1.5", "by hand", "hand tight", "O-ring 20 mm"),
            ),
            "dipstick", "side stand",
        ),
        *forks("19.5 oz", "19000 mi"),
    ),
    (
        Past("engine", 1490, 67_900, 3380, 3260, (("paste", "steel", 0.15),)),
        Past("engine", 1120, 75_200, 3395, 3330, (("paste", "steel", 0.2),)),
        Past("engine", 760, 82_600, 3365, 3290, (("paste", "steel", 0.25),)),
        Past("engine", 398, 89_900, 3390, 3310, (("paste", "steel", 0.25),)),
        Past("primary", 398, 89_900, 1005, 980, (("paste", "friction", 0.8),), variant="drain only"),
        Past("gearbox", 398, 89_900, 790, 770, (("paste", "steel", 0.35),), variant="drain only"),
        Past("fork left", 600, 83_000, None, variant="dry"),
        Past("fork right", 600, 83_000, None, variant="dry"),
    ),
)  # fmt: skip

MERIDAN = Machine(
    "Halvane", "Meridan 1130", 2020, "boxer, shaft", 1130,
    "Ferry Bell", "Skarholm ferries", "touring", "km", 58_410, "Meridan repair handbook",
    (
        Tank(
            "engine", "engine", "engine", "level", "5W-40, no clutch in the sump",
            {
                "capacity.drain only": "3.45 l", "capacity.with filter": "3.80 l",
                "level.between": "0.6 l", "level.run": "3 min", "level.settle": "5 min",
                "prefill": "0.2 l", "first.km": "1000 km", "first.months": "3 months",
                "repeat.km": "9500 km", "repeat.months": "12 months",
            },
            (
                Plug("drain plug", "Lowest point of the sump, middle", "M16x1.5", "8 mm hex key", "32 ± 3 N·m", "crush washer 16 mm", True),
                Plug("fill plug", "Left cylinder head cover", "M28x2", "by hand", "hand tight", "O-ring 26 mm"),
                Plug("filter", "Under the sump cover, in front", "M20x1.5", "cap wrench, 15 flutes", "11 N·m", "its own gasket"),
            ),
            "sight glass", "upright",
        ),
        Tank(
            "gearbox", "gearbox", "gearbox", "level", "75W-90, GL-4",
            {
                "capacity.drain only": "0.85 l", "level.between": "0.1 l", "level.settle": "5 min",
                "repeat.km": "19000 km", "repeat.months": "24 months",
            },
            (
                Plug("drain plug", "Under the gearbox, in front of the stand", "M18x1.5", "19 mm socket", "28-34 N·m", "crush washer 18 mm", True),
                Plug("fill plug", "Right side, level with the footrest", "M20x1.5", "10 mm hex key", "22 N·m", "crush washer 20 mm"),
            ),
            "level plug", "upright",
        ),
        Tank(
            "final drive", "final drive", "final drive", "exact", "75W-90, GL-5",
            {"capacity.drain only": "185 ml", "repeat.km": "19000 km", "repeat.months": "24 months"},
            (
                Plug("drain plug", "Bottom of the drive housing, above the tyre's edge", "M12x1.5", "8 mm hex key", "19 N·m", "crush washer 12 mm", True),
                Plug("fill plug", "Rear of the drive housing", "M12x1.5", "8 mm hex key", "19 N·m", "crush washer 12 mm"),
            ),
        ),
        *forks("0.62 l", "30000 km"),
    ),
    (
        Past("engine", 1700, 1_020, 3640, 3550, (("fuzz", "steel", 0.4),), first=True),
        Past("engine", 1330, 15_600, 3655, 3560, (("paste", "steel", 0.2),)),
        Past("engine", 980, 29_900, 3660, 3540, (("paste", "steel", 0.2),)),
        Past("engine", 610, 43_100, 3650, 3545, (("paste", "steel", 0.15),)),
        Past("engine", 214, 53_300, 3655, 3560, (("paste", "steel", 0.2),)),
        Past("gearbox", 610, 43_100, 830, 815, (("paste", "steel", 0.3),), variant="drain only"),
        Past("final drive", 610, 43_100, 185, 170, (("paste", "steel", 0.5),), variant="drain only"),
        Past("fork left", 610, 43_100, None, variant="dry"),
        Past("fork right", 610, 43_100, None, variant="dry"),
    ),
    new_days=1760,
)  # fmt: skip

TANDEM = Machine(
    "Osprand", "Tandem 890", 2022, "parallel twin, chain", 890,
    "Red Buoy", "M. of the north pier", "mixed", "km", 31_870, "Tandem service manual",
    (
        Tank(
            "engine", "engine", "engine", "level", "10W-40, MA2",
            {
                "capacity.drain only": "3.05 l", "capacity.with filter": "3.30 l", "capacity.dry": "3.9 l",
                "level.between": "450 ml", "level.run": "3 min", "level.settle": "3 min",
                "prefill": "120 ml", "first.km": "1000 km", "first.months": "2 months",
                "repeat.km": "11500 km", "repeat.months": "12 months",
            },
            (
                Plug("drain plug", "Sump, rear left, beside the stand bracket", "M12x1.5", "17 mm socket", "27-33 N·m", "crush washer 12 mm", True),
                Plug("fill plug", "Clutch cover, right", "M26x2", "by hand", "hand tight", "O-ring 24 mm"),
                Plug("filter", "Front of the engine, low", "M20x1.5", "cap wrench, 14 flutes", "12 N·m", "its own gasket"),
            ),
            "sight glass", "upright",
        ),
        Tank(
            "clutch circuit", "clutch circuit", "clutch circuit", "level", "with the engine oil",
            {"repeat.km": "23000 km"},
        ),
        *forks("0.51 l", "25000 km"),
        Tank("shock", "shock", "shock", "air gap", "rebuild by a specialist", {"repeat.km": "40000 km"}),
    ),
    (
        Past("engine", 1390, 980, 3170, 3080, (("slivers", "steel", 0.1),), first=True),
        Past("engine", 1010, 11_900, 3185, 3100, (("paste", "steel", 0.2),)),
        Past("engine", 640, 21_600, 3180, 3090, (("paste", "steel", 0.2),)),
        Past("engine", 330, 29_400, 3175, 3105, (("paste", "steel", 0.2), ("slivers", "aluminium", 0.02))),
        Past("clutch circuit", 640, 21_600, None),
        Past("fork left", 330, 29_400, None, variant="dry"),
        Past("fork right", 330, 29_400, None, variant="dry"),
    ),
    new_days=1450,
)  # fmt: skip

DAB = Machine(
    "Lumeo", "Dab 125", 2026, "single, chain", 125,
    "Postie", "Harbour post", "commuter", "km", 942, "Dab owner's handbook",
    (
        Tank(
            "engine", "engine", "engine", "level", "10W-30, MB",
            {
                "capacity.drain only": "0.9 l", "capacity.dry": "1.15 l",
                "level.between": "0.2 l", "level.run": "3 min", "level.settle": "2 min",
                "first.km": "1000 km", "first.months": "3 months",
                "repeat.km": "4000 km", "repeat.months": "12 months",
            },
            (
                Plug("drain plug", "Under the crankcase, left of the stand", "M12x1.25", "17 mm socket", "24 N·m", "crush washer 12 mm"),
                Plug("fill plug", "Right cover, holds the dipstick", "M20x2.5", "by hand", "hand tight", "O-ring 18 mm"),
            ),
            "dipstick", "upright",
        ),
        *forks("145 ml", "20000 km"),
    ),
    new_days=80,
)  # fmt: skip

SCREE = Machine(
    "Tarrow", "Scree 300", 2023, "single, chain", 298,
    "Goat", "Hill rescue", "off-road", "km", 6_130, "Scree repair manual",
    (
        Tank(
            "engine", "engine", "engine", "level", "10W-40, MA2",
            {
                "capacity.drain only": "1.15 l", "capacity.with filter": "1.25 l",
                "level.between": "230 ml", "level.run": "3 min", "level.settle": "3 min",
                "repeat.hours": "30 h", "repeat.months": "12 months",
            },
            (
                Plug("drain plug", "Under the engine, through the skid plate", "M12x1.5", "13 mm socket", "21 N·m", "crush washer 12 mm", True),
                Plug("fill plug", "Clutch cover, top", "M24x2", "by hand", "hand tight", "O-ring 22 mm"),
                Plug("filter", "Right cover, three screws", "M6", "8 mm socket", "9 N·m", "cover O-ring"),
            ),
            "sight glass", "upright",
        ),
        *forks("0.44 l", "9000 km"),
        Tank("shock", "shock", "shock", "air gap", "rebuild by a specialist", {"repeat.hours": "120 h"}),
    ),
    (
        Past("engine", 560, 3_120, 1220, 1180, (("paste", "steel", 0.3),), hours=98),
        Past("engine", 300, 4_590, 1215, 1175, (("paste", "steel", 0.3),), hours=131),
        Past("engine", 96, 5_610, 1225, 1170, (("paste", "steel", 0.4),), hours=158),
        Past("fork left", 300, 4_590, None, hours=131, variant="dry"),
        Past("fork right", 300, 4_590, None, hours=131, variant="dry"),
        Past("shock", 300, 4_590, None, hours=131, variant="dry"),
    ),
    new_days=1100, hours=169, severity="0.8",
)  # fmt: skip

FEN = Machine(
    "Quillon", "Fen 510", 1997, "single, chain", 510,
    "Lamplighter", "Lighthouse trust", "vintage", "mi", 27_655, "Fen workshop manual",
    (
        Tank(
            "engine", "engine, dry sump", "engine", "level", "SAE 50",
            {
                "capacity.drain only": "2.1 l", "capacity.with filter": "2.3 l",
                "level.between": "350 ml", "level.run": "3 min", "level.settle": "1 min",
                "repeat.km": "2000 mi", "repeat.months": "12 months",
            },
            (
                Plug("drain plug", "Bottom of the frame tank, in front of the engine", "M16x1.5", "22 mm socket", "24-28 N·m", "crush washer 16 mm", True),
                Plug("fill plug", "Top of the frame tank, behind the steering head", "M24x2", "by hand", "hand tight", "O-ring 22 mm"),
                Plug("filter", "Right cover, two screws", "M6", "10 mm socket", "10 N·m", "cover O-ring"),
            ),
            "dipstick", "upright",
        ),
        *forks("0.21 l", "8000 mi"),
    ),
)  # fmt: skip

FLEET = (COLOSSINE, MERIDAN, TANDEM, DAB, SCREE, FEN)
