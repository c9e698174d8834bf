"""The backups' passphrase is typed back."""

from hmac import compare_digest

from django.utils import timezone
from oilward_core.errors import CoreError

from workshop.access import require_lead
from workshop.models import PassphraseTyped, Person
from workshop.traces import trace

from .passphrase import TYPED, key_for, tidy
from .selectors import told_check


def typed_back(actor: Person, passphrase: str) -> None:
    """A lead has typed the backups' passphrase; once is enough. Raises CoreError ``keeping.passphrase``
    at ``passphrase`` for another one."""
    require_lead(actor)
    check = told_check()
    if not compare_digest(check, key_for(TYPED, tidy(passphrase))):
        raise CoreError("keeping.passphrase", field="passphrase")
    _, first = PassphraseTyped.objects.get_or_create(
        check_of=check, defaults={"person": actor, "at": timezone.now()}
    )
    if first:
        trace("passphrase typed back", "backups", actor=actor)
