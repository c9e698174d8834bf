from decimal import Decimal, InvalidOperation

from config.problems import Conflict
from django.db import transaction
from oilward_core.errors import CoreError

from .access import require_lead
from .models import Person, Workshop
from .shapes import Prices


def _number(field: str, text: str, low: int, high: int) -> Decimal:
    said = text.replace("°C", "").replace("−", "-").replace(",", ".").strip()
    try:
        value = Decimal(said)
    except InvalidOperation as error:
        raise CoreError("quantity.not_a_number", word=said, field=field) from error
    if not value.is_finite() or not low <= value <= high:
        raise CoreError("workshop.range", field=field, low=low, high=high)
    return value


@transaction.atomic
def set_prices(prices: Prices, *, actor: Person) -> None:
    """Set the coldest start expected and the workshop's prices. A lead's to do. Raises Conflict
    ``workshop.edited``."""
    require_lead(actor)
    columns = {
        "coldest_start": _number("coldest_start", prices.coldest_start, -60, 40),
        "hour_price": _number("hour_price", prices.hour_price, 0, 10_000),
        "flat_price": _number("flat_price", prices.flat_price, 0, 100_000),
    }
    workshop = Workshop.objects.select_for_update().get()
    if all(getattr(workshop, name) == value for name, value in columns.items()):
        return
    if workshop.version != prices.version:
        raise Conflict("workshop.edited")
    Workshop.objects.update(**columns, version=workshop.version + 1)
