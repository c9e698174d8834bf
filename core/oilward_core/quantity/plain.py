"""Characters: whatever a manual prints or a keyboard sends, in the few the grammar knows.

Nothing here decides what a text means; a character that has no plain form is left as it is, and the
grammar refuses it. So ``5³ ml`` stays a cube and is never read as 53.
"""

import re
import unicodedata

_SIGNS = {
    "-": "−‐‑‒–—―﹣－⁻",
    "·": "⋅∙‧•・･⸱ꞏᐧ𐄁·\u0387\u2022",
    "~": "∼〜～≈≅≃∽",
    "'": "’‘‛′´`ʹʼ＇",
    '"': "”“„‟″ʺ＂",
    "/": "⁄∕⧸／",
    "±": "∓",
    "°": "º˚ᵒ",
    "µ": "μ",
    "...": "…⋯‥",
    ".": "․",
    "≤": "⩽≦",
    "≥": "⩾≧",
}
_UNSEEN = "\u200b\u200c\u200d\u2060\ufeff\u00ad\u200e\u200f"
_VULGAR = "½⅓⅔¼¾⅛⅜⅝⅞"
_PACKED = "℮"  # on a bottle: filled as the law wants it, and no amount
_TABLE = str.maketrans(
    {char: plain for plain, chars in _SIGNS.items() for char in chars}
    | dict.fromkeys(_UNSEEN, "")
    | dict.fromkeys(_PACKED, " ")
)


def _char(char: str) -> str:
    """One character as letters, digits or signs the grammar knows; itself if it has none."""
    if char.isascii() or char in "²³·°µ±≤≥":
        return char
    digit = unicodedata.decimal(char, None)
    if digit is not None:
        return str(digit)
    if char.isspace():
        return " "
    spelt = unicodedata.normalize("NFKC", char)
    if char in _VULGAR:
        return " " + spelt.replace("⁄", "/") + " "
    mark = len(spelt) == 1 and spelt.isascii() and not spelt.isdigit()
    return spelt if mark or spelt[:1].isalpha() or spelt[:1] == "°" else char


_ACRONYM = re.compile(r"(?<![a-z])(?:[a-z]\.){1,3}[a-z]?\.?(?![a-z])")
_SYSTEM_ASIDE = re.compile(r"\(\s*(us|usa|imp|uk|imperial|mass)\.?\s*\)")
_TOLERANCE_ASIDE = re.compile(r"[(\[] ?((?:±|\+|- ?[\d.,]+ ?/? ?\+) ?[\d.,][^()\[\]]*)[)\]]")
_MIXED_VULGAR = re.compile(rf"(?<=\d)[-‐‑–](?=[{_VULGAR}])")
_ABBREVIATED = re.compile(r"\^(?=[23])|\.(?=[²³]|/[a-z])")


def _run_together(match: re.Match[str]) -> str:
    letters = match.group().replace(".", "")
    return letters if len(letters) > 1 else match.group()


def plain(text: str) -> str:
    """A text in lower case, one space between words, with plain digits, dashes, quotes and dots.

    ``2½`` becomes ``2 1/2``, ``U.S. qt.`` ``us qt.``, ``(±2)`` ``±2``.
    """
    signs = _MIXED_VULGAR.sub(" ", text.translate(_TABLE))
    lower = "".join(_char(char) for char in signs).lower().translate(_TABLE)
    lower = lower.replace("''", '"').replace("+/-", "±").replace("+-", "±")
    lower = _ACRONYM.sub(_run_together, " ".join(_ABBREVIATED.sub("", lower).split()))
    lower = _TOLERANCE_ASIDE.sub(r"\1", _SYSTEM_ASIDE.sub(r"\1", lower))
    return " ".join(lower.split())
