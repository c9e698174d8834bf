"""What is sent and told has the shape of a dataclass; this is the one place that reads and writes it."""

from collections.abc import Sequence
from typing import Any, TypeVar, cast

from rest_framework.request import Request
from rest_framework_dataclasses.serializers import DataclassSerializer

T = TypeVar("T")


_made: dict[type[Any], type[DataclassSerializer[Any]]] = {}


def shaped(of: type[Any]) -> type[DataclassSerializer[Any]]:
    """The serializer of a dataclass, under its name; made once."""
    if of not in _made:
        meta = type("Meta", (), {"dataclass": of})
        _made[of] = type(f"{of.__name__}Serializer", (DataclassSerializer,), {"Meta": meta})
    return _made[of]


def sent(of: type[T], request: Request) -> T:
    """What was sent, in that shape; refused with the field's name where it is not."""
    read = shaped(of)(data=request.data)
    read.is_valid(raise_exception=True)
    return cast(T, read.validated_data)


def told(of: type[T], found: T | Sequence[T]) -> Any:
    """An answer, or a list of them, in plain words and numbers."""
    return shaped(of)(found, many=isinstance(found, list | tuple)).data
