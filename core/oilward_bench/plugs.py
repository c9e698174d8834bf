"""What is drawn on a plug's tip."""

from collections.abc import Iterable

from oilward_core.debris import Part, Place

from .shapes import PlugPart


def plug_part(one: Part) -> PlugPart:
    """One kind of debris, in plain numbers."""
    return PlugPart(
        form=one.form,
        matter=one.matter,
        share=float(one.share),
        largest_mm=None if one.largest_mm is None else float(one.largest_mm),
        pile_mm=None if one.pile_mm is None else float(one.pile_mm),
    )


def on_plug(seen: Iterable[Part]) -> list[PlugPart]:
    """What is drawn on the plug's tip: what sat there."""
    return [plug_part(one) for one in seen if one.place == Place.PLUG]
