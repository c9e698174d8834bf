"""What visits have done while nobody waits."""

import logging
from uuid import UUID

from django.utils import timezone
from oilward_core.errors import CoreError
from workshop.background import job

from .ahead import services

log = logging.getLogger("oilward.ahead")


@job("visit.ahead", "saying when a visit will be through")
def look_ahead(visit: str) -> None:
    try:
        services.look_ahead(UUID(visit), timezone.now())
    except CoreError as error:
        log.warning("What is ahead in visit %s cannot be said: %s", visit, error.code)
