"""Entries as documents: what is kept of one besides its step, kind and time, and back."""

from collections.abc import Mapping
from datetime import datetime
from decimal import Decimal, DecimalException
from typing import Any

from cattrs import BaseValidationError
from cattrs.preconf.json import make_converter

from ..codes.entries import EntryKind
from ..errors import CoreError
from ..guard import guarded
from .asks import ACTS
from .entries import Data, Entry

Document = Mapping[str, Any]
DESCRIPTION = 3  # of the work: entries in codes

_converter = make_converter(detailed_validation=False, forbid_extra_keys=True, omit_if_default=True)
_converter.register_unstructure_hook(Decimal, str)
_converter.register_structure_hook(Decimal, lambda text, _: Decimal(text))
_AGAINST, _REMEMBERED = "against", "remembered"


@guarded
def data_document(data: Data) -> dict[str, Any]:
    """What an entry says, as it is kept. Raises CoreError ``number.no_answer`` for an amount that is no
    number."""
    return dict(_converter.unstructure(data))


def data_from(kind: EntryKind, document: Document) -> Data:
    """Read what `data_document` wrote. Raises CoreError ``entry.unreadable`` for anything else."""
    try:
        data: Data = _converter.structure(document, ACTS[kind].data)
    except (
        BaseValidationError,
        CoreError,
        DecimalException,
        AttributeError,
        LookupError,
        TypeError,
        ValueError,
    ) as error:
        raise CoreError("entry.unreadable", entry=str(kind)) from error
    return data


def entry_document(entry: Entry) -> dict[str, Any]:
    """What is kept of an entry: what it says, what it went against, that it was written down later."""
    told = data_document(entry.data)
    if entry.against:
        told[_AGAINST] = list(entry.against)
    if entry.remembered:
        told[_REMEMBERED] = True
    return told


def entry_from(
    document: Document,
    *,
    entry_id: str,
    step: str,
    kind: str,
    at: datetime,
    by: str,
    who: str,
    supersedes: str | None,
) -> Entry:
    """Read what `entry_document` wrote. Raises CoreError ``entry.unreadable`` for anything else."""
    told = {name: value for name, value in document.items() if name not in (_AGAINST, _REMEMBERED)}
    found = next((one for one in EntryKind if one == kind), None)
    if found is None:
        raise CoreError("entry.unreadable", entry=entry_id)
    return Entry(
        id=entry_id,
        step=step,
        data=data_from(found, told),
        at=at,
        by=by,
        who=who,
        supersedes=supersedes,
        against=tuple(map(str, document.get(_AGAINST, ()))),
        remembered=document.get(_REMEMBERED) is True,
    )
