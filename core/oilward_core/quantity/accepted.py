"""What is read, how, and what is asked instead: the grammar by its examples.

The tests read every row. A reading is the canonical value, ``low–high`` for ranges and tolerances,
``?`` and an error code where it is asked about or refused. Rules of rounding and of sums are our
definition; notations are common practice, no source.
"""

from dataclasses import dataclass

from .units import Kind

V, T, D, L = Kind.VOLUME, Kind.TORQUE, Kind.DISTANCE, Kind.LENGTH
P, C, K, M, G, R = (
    Kind.PRESSURE,
    Kind.TEMPERATURE,
    Kind.VISCOSITY,
    Kind.TIME,
    Kind.MASS,
    Kind.SPRING_RATE,
)


@dataclass(frozen=True)
class Row:
    """A rule of the grammar: the texts it takes, by the field's kind, with their readings."""

    rule: str
    examples: tuple[tuple[str, Kind, str], ...]


TABLE = (
    Row(
        "One number and one unit, apart or together; a dot behind a unit is an abbreviation.",
        (("2.7 l", V, "2700"), ("2.7L", V, "2700"), ("600 mi.", D, "965.6064"),
         ("25 in. lbs.", T, "2.824621"), ("6 fl. oz.", V, "177.441177"), ("29 p.s.i.", P, "199.947962"),
         ("650 c.c.", V, "650"), ("3/8 in.", L, "9.525"), ("12 Nm.", T, "12"), ("25 [N·m]", T, "25"), ("2.7 (l)", V, "2700")),
    ),
    Row(
        "Units in full, in the plural, in any order, with any joint between force and arm.",
        (("3 quarts", V, "2839.058838"), ("20 newton meters", T, "20"), ("12 foot-pounds", T, "16.269815"),
         ("12 pound-feet", T, "16.269815"), ("50 inch lb", T, "5.649241"), ("20 N.m", T, "20"),
         ("12 N-m", T, "12"), ("9 lb·ft", T, "12.202362"), ("14.5 ft/lbs", T, "19.65936"),
         ("10 miles", D, "16.09344"), ("2.7 litres", V, "2700")),
    ),
    Row(
        "Whose quart: the word before, behind or in brackets; a bare one is the US one.",
        (("2.5 U.S. qt.", V, "2365.882365"), ("2.5 qt US", V, "2365.882365"),
         ("2.5 qt (US)", V, "2365.882365"), ("2.2 Imp. qt", V, "2500.3495"), ("22 UK fl oz", V, "625.087375")),
    ),
    Row(
        "Units less common.",
        (("2 mkp", T, "19.6133"), ("2 daN·m", T, "20"), ("200 N·cm", T, "2"), ("20 kgf·cm", T, "1.96133"),
         ("20 cu in", V, "327.74128"), ("2.7 dm³", V, "2700"), ("0.25 MPa", P, "250"), ("2500 mbar", P, "250"),
         ("1 atm", P, "101.325"), ("2.5 kg/cm²", P, "245.16625"), ("36 lb/in²", P, "248.211263"),
         ("2 thou", L, "0.0508"), ("20 µm", L, "0.02"), ("353 K", C, "79.85"), ("15 mm²/s", K, "15"),
         ("0.15 St", K, "15"), ("2 yr", M, "1051920"), ("6 weeks", M, "60480"), ("0.9 kgf/mm", R, "8.825985")),
    ),
    Row(
        "Fractions: proper ones over 2, 3, 4, 8, 16, 32 or 64; mixed with space or hyphen.",
        (("3 1/2 qt", V, "3312.235311"), ("2-1/2 qt", V, "2365.882365"), ("2½ qt", V, "2365.882365"),
         ("1/2 l", V, "500"), ("6/32 in", L, "4.7625"), ("1⅜″", L, "34.925"), ("1 and 1/2 h", M, "90")),
    ),
    Row(
        "Any other slash between numbers is a question; torques and pressures are not printed in "
        "eighths or finer, nor torques in bare quarters.",
        (("18/25 N·m", T, "?quantity.slash"), ("36/42 psi", P, "?quantity.slash"),
         ("800/850 ml", V, "?quantity.slash"), ("3.5/3.7 l", V, "?quantity.slash"),
         ("6/8 N·m", T, "?quantity.slash"), ("28/32 psi", P, "?quantity.slash"),
         ("3/4 N·m", T, "?quantity.slash"), ("3 / 4 N·m", T, "?quantity.slash"), ("11/2 qt", V, "?quantity.improper"),
         ("13/8 in", L, "?quantity.improper")),
    ),
    Row(
        "Decimals with dot or comma; thousands with space, apostrophe or several separators.",
        (("2,7 l", V, "2700"), (".5 l", V, "500"), ("15 000 km", D, "15000"), ("1'500 km", D, "1500"),
         ("1,234.5 ml", V, "1234.5"), ("1.234,5 ml", V, "1234.5"), ("0,750 l", V, "750"),
         ("1,25,000 ml", V, "?quantity.digits"), ("2.7.5 l", V, "?quantity.digits")),
    ),
    Row(
        "One separator before exactly three digits: a comma is thousands in ml, km, mi, g, min, asked "
        "elsewhere; a dot is a decimal, asked in ml, km, mi, g.",
        (("2,750 ml", V, "2750"), ("6,000 mi", D, "9656.064"), ("2,750 l", V, "?quantity.doubtful_comma"),
         ("1,200 N·m", T, "?quantity.doubtful_comma"), ("2.750 l", V, "2750"),
         ("2.500 km", D, "?quantity.doubtful_dot"), ("2.750 ml", V, "?quantity.doubtful_dot")),
    ),
    Row(
        "Ranges: a bare end takes the other end's unit, never a part of a sum's.",
        (("14-21 N·m", T, "14–21"), ("14 to 21 N·m", T, "14–21"), ("14 N·m – 21", T, "14–21"),
         ("18…25 N·m", T, "18–25"), ("18~25 N·m", T, "18–25"), ("12Nm–15Nm", T, "12–15"),
         ("between 2 and 3 l", V, "2000–3000"), ("-20 to -10 °C", C, "-20–-10"),
         ("1-1 qt 6 oz", V, "?quantity.unit_missing"), ("21-14 N·m", T, "?quantity.range_reversed"),
         ("1-2-3 l", V, "?quantity.too_much")),
    ),
    Row(
        "Tolerances: ±, in per cent, unequal.",
        (("20 ± 2 N·m", T, "18–22"), ("20 N·m (±2)", T, "18–22"), ("20 N·m ± 10 %", T, "18–22"),
         ("20 +2/-1 N·m", T, "19–22"), ("212 ± 18 °F", C, "90–110")),
    ),
    Row(
        "About: said and not counted.",
        (("approx. 2.7 l", V, "2700"), ("ca. 2.7 l", V, "2700"), ("~2.7 l", V, "2700")),
    ),
    Row(
        "A sum: one system, the larger unit first and without decimals, less than one of it behind; "
        "or with a plus. Torques, pressures, temperatures and viscosities are never summed.",
        (("1 qt 6 oz", V, "1123.794123"), ("1 qt, 6 oz", V, "1123.794123"), ("1 l + 6 oz", V, "1177.441177"),
         ("1 h 30 min", M, "90"), ("5 ft 6 in", L, "1676.4"), ("2 lb 4 oz", G, "1020.582832"),
         ("1 qt 32 oz", V, "?quantity.sum_or_same"), ("1 qt 6", V, "?quantity.unit_missing"),
         ("20 N·m + 5 N·m", T, "?quantity.too_much")),
    ),
    Row(
        "The same twice or thrice, apart by brackets, slash, comma, “or”, “=” or nothing: the first is the "
        "value. The others must overlap it, each with half its last digit (whole numbers with two "
        "noughts or more at the end: half the last other place), never less than 1 % nor more than 12 % "
        "of the first, and lie within 12 % of it. A value inside a range says nothing of the range.",
        (("10 N·m (1.0 kgf·m, 7.2 lbf·ft)", T, "10"), ("2.7 l 2.85 qt", V, "2700"),
         ("6,000 km (4,000 mi)", D, "6000"), ("33 psi / 2.3 bar", P, "227.526991"),
         ("0.1 MPa (1 kgf/cm2, 14 psi)", P, "100"),
         ("3.0 L (3.2 US qt, 2.6 Imp qt)", V, "3000"), ("10 N·m,7 lbf·ft", T, "10"),
         ("18–25 N·m (13–18 lbf·ft)", T, "18–25"), ("2.7 L or 2.85 qt", V, "2700"),
         ("3 l 3 qt 5 oz", V, "3000"), ("10 N·m - 7.4 lbf·ft", T, "10"),
         ("2 l (3 qt)", V, "?quantity.disagree"), ("1 l (1 pt)", V, "?quantity.disagree"),
         ("2 bar (36 psi)", P, "?quantity.disagree"), ("1 kgf·m (6 N·m)", T, "?quantity.disagree"),
         ("18–25 N·m (15 lbf·ft)", T, "?quantity.disagree"), ("20 ± 2 N·m (15 lbf·ft)", T, "18–22"),
         ("2.7 l (2.7 qt)", V, "?quantity.disagree"), ("18–25 N·m (18–25 lbf·ft)", T, "?quantity.disagree"),
         ("2 l 1.5 l", V, "?quantity.disagree"), ("2 l - 3 qt", V, "?quantity.too_much"),
         ("14, 21 N·m", T, "?quantity.unit_missing"), ("6000 km / 12 months", D, "?quantity.two_kinds")),
    ),
    Row(
        "What is printed beside an amount and is none: how it is read, packed, filled, and how often.",
        (("1.7 l approx.", V, "1700"), ("3.1 L incl. filter", V, "3100"), ("1 L ℮", V, "1000"),
         ("36 psi cold", P, "248.211263"), ("14.52 cSt (100 °C)", K, "14.52"), ("1h30", M, "90"),
         ("alle 10.000 km", D, "10000"), ("tous les 10.000 km", D, "10000"), ("2 ans", M, "1051920")),
    ),
    Row(
        "Doubtful digits are asked: a nought without its point, a comma too many, two numbers side by "
        "side, one amount less another; a comma is settled by what is printed beside it.",
        (("085 l", V, "?quantity.nought"), ("024 l", V, "?quantity.nought"), ("20 ±05 N·m", T, "?quantity.nought"),
         ("1 qt,,8 oz", V, "?quantity.comma"), ("about,12 oz", V, "?quantity.comma"),
         ("100 110 ml", V, "?quantity.space"), ("100 110 km", D, "100110"), ("15 mN", T, "?quantity.turned_round"),
         ("1 qt - 4 oz", V, "?quantity.minus"), ("00.5 l", V, "?quantity.digits"),
         ("1,000 kPa (10 kgf/cm², 142 psi)", P, "1000"), ("2,750 l (2.9 qt)", V, "2750")),
    ),
    Row(
        "A limit is no value, save where a field takes one.",
        (("min. 20 N·m", T, "?quantity.bound"), ("20 N·m max.", T, "?quantity.bound"),
         ("≤ 3 l", V, "?quantity.bound"), ("up to 3 l", V, "?quantity.bound")),
    ),
    Row(
        "Signs and letters of other keyboards and prints.",
        (("２．７ ｌ", V, "2700"), ("2\u200b.7 l", V, "2700"), ("15\u202f000 km", D, "15000"),
         ("1⁄2 qt", V, "473.176473"), ("−40 ℉", C, "-40"), ("20 N∙m", T, "20"), ("20 N⋅m", T, "20"), ("20 N･m", T, "20"), ("12 lbf･ft", T, "16.269815"),
         ("14‒21 N·m", T, "14–21"), ("10 ﬂ oz", V, "295.735296"), ("650 ㎤", V, "650"),
         ("5³ ml", V, "?quantity.digits"), ("① l", V, "?quantity.digits")),
    ),
    Row(
        "What is no amount of the field's kind is said so.",
        (("20 N·m", V, "?quantity.wrong_kind"), ("5 flurbs", V, "?quantity.unknown_unit"),
         ("abc", V, "?quantity.not_a_number"), ("-5 ml", V, "?quantity.negative"),
         ("-300 °C", C, "?quantity.too_cold"), ("99999999 l", V, "?quantity.too_large"),
         ("20-", T, "?quantity.unfinished"), ("", V, "?quantity.empty"), ("12 34 ml", V, "?quantity.unit_missing")),
    ),
)  # fmt: skip
