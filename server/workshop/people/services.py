"""People come, change and go. Nobody is ever deleted: what they did keeps its name."""

from collections.abc import Iterable
from datetime import datetime, timedelta
from uuid import UUID

from config.problems import Conflict
from django.contrib.auth.hashers import make_password
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import transaction
from django.http import Http404
from oilward_core.errors import CoreError
from oilward_core.people import Qualification, full_name, pin, reads, sign_in_name

from workshop.access import as_id, require_lead
from workshop.models import Person, Welcome, Workshop
from workshop.repeated import unchanged
from workshop.rights import Right, Role, with_right
from workshop.touched import touch_all
from workshop.traces import trace
from workshop.tries import tried

from . import keys, links, selectors
from .shapes import ChangedPerson, Chosen, NewPassword, NewPerson, NewPin, OwnUnits, WelcomeLink

# so long a link may be used once more, with what was chosen through it
SENT_AGAIN = timedelta(minutes=10)
# what is wrong with a password, as the framework's validators call it
_WEAK = {
    "password_too_short": "people.password_too_short",
    "password_too_common": "people.password_too_common",
    "password_too_similar": "people.password_too_similar",
}


def _role(text: str) -> str:
    if text not in Role.values:
        raise CoreError("people.role", field="role", options=list(Role.values))
    return text


def _qualifications(given: Iterable[str]) -> list[str]:
    known = [one.value for one in Qualification]
    if wrong := [one for one in given if one not in known]:
        raise CoreError("people.qualification", field="qualifications", given=wrong[0][:40])
    return [one for one in known if one in given]


def _password(text: str, person: Person, field: str = "password") -> str:
    try:
        validate_password(text, person)
    except ValidationError as error:
        raise CoreError(_WEAK[error.error_list[0].code or ""], field=field) from error
    return text


def _free(name: str, but: int = 0) -> None:
    if Person.objects.exclude(pk=but).filter(name__iexact=name).exists():
        raise CoreError("people.name_taken", field="name", name=name)


def _in_turn() -> None:
    """Who comes and goes is written by one lead at a time: of two who end each other's lead one stays."""
    Workshop.objects.select_for_update().first()


def new_person(username: str, name: str, role: str) -> Person:
    """Somebody new, who reads in the workshop's units and has no password yet.

    Raises CoreError ``people.username``, ``people.taken``, ``people.name`` and ``people.name_taken``.
    """
    wanted, called = sign_in_name(username), full_name(name)
    if Person.objects.filter(username=wanted).exists():
        raise CoreError("people.taken", field="username", username=wanted)
    _free(called)
    row = Person(username=wanted, name=called, role=_role(role))
    if workshop := Workshop.objects.first():
        row.volume_unit, row.torque_unit = workshop.volume_unit, workshop.torque_unit
        row.ounces = workshop.ounces
    row.set_unusable_password()
    return row


def link_for(person: Person, act: object, now: datetime) -> WelcomeLink:
    """A one-time link for somebody; those handed out before are good no more."""
    token, until = links.token_of(act), now + timedelta(hours=links.HOURS)
    row, new = Welcome.objects.get_or_create(
        digest=links.digest(token), defaults={"person": person, "until": until}
    )
    if row.person_id != person.pk:
        raise Conflict("people.id_taken")
    if new:
        earlier = Welcome.objects.filter(person=person, used_at=None).exclude(pk=row.pk)
        earlier.update(used_at=now)
    return WelcomeLink(person.name, links.path_of(token), links.HOURS)


@transaction.atomic
def add(new: NewPerson, *, actor: Person, now: datetime) -> WelcomeLink:
    """Add somebody; the one-time link to hand over. A lead's to do."""
    require_lead(actor)
    _in_turn()
    act = as_id(new.id)
    handed = Welcome.objects.filter(digest=links.digest(links.token_of(act))).first()
    if handed:
        if handed.person.username != new.username.strip().lower():
            raise Conflict("people.id_taken")
        return link_for(handed.person, act, now)
    row = new_person(new.username, new.name, new.role)
    row.qualifications = _qualifications(new.qualifications)
    row.save()
    trace("person added", f"person/{row.username}/{row.role}", actor=actor)
    return link_for(row, act, now)


def _locked(person_id: int) -> Person:
    row = Person.objects.select_for_update().filter(pk=person_id).first()
    if row is None:
        raise Http404
    return row


def _a_lead_stays(row: Person, role: str, active: bool) -> None:
    """Refuse to leave the workshop without anybody who may lead it."""
    leads = with_right(Right.LEAD)
    if row.role not in leads or not row.is_active or (role in leads and active):
        return
    others = Person.objects.filter(role__in=leads, is_active=True)
    if not any(one.has_usable_password() for one in others.exclude(pk=row.pk)):
        raise CoreError("people.last_lead", field="role" if active else "active")


@transaction.atomic
def change(person_id: int, changed: ChangedPerson, *, actor: Person) -> Person:
    """Change somebody's name, role or qualifications, or end their access. A lead's to do. Raises
    Conflict ``people.edited``."""
    require_lead(actor)
    _in_turn()
    row = _locked(person_id)
    name = full_name(changed.name)
    _free(name, but=row.pk)
    told = {
        "name": name,
        "role": _role(changed.role),
        "qualifications": _qualifications(changed.qualifications),
        "is_active": changed.active,
    }
    stood = {key: getattr(row, key) for key in told}
    if stood == told:
        return row
    unchanged(row, changed.version, "people.edited", name=row.name)
    _a_lead_stays(row, changed.role, changed.active)
    act = "access ended" if row.is_active and not changed.active else "person changed"
    was = {key: value for key, value in stood.items() if told[key] != value}
    trace(act, f"person/{row.username}", actor=actor, was=was)
    Person.objects.filter(pk=row.pk).update(**told, version=row.version + 1)
    if stood["name"] != name:
        touch_all()
    row.refresh_from_db()
    return row


@transaction.atomic
def welcome_again(person_id: int, act: UUID, *, actor: Person, now: datetime) -> WelcomeLink:
    """A new link for somebody who lost theirs, or their password; until it is used, the old password
    stays good. A lead's to do."""
    require_lead(actor)
    row = _locked(person_id)
    if not row.is_active:
        raise CoreError("people.ended", name=row.name)
    known = Welcome.objects.filter(digest=links.digest(links.token_of(act))).exists()
    if not known:
        trace(keys.LINK, f"person/{row.username}", actor=actor)
    return link_for(row, act, now)


def choose(token: str, chosen: Chosen, at: str, *, now: datetime) -> Person:
    """Choose a password, and a PIN if wanted, through a one-time link, which is used up with it. Sent
    again from ``at`` for a while, it is the same act. Raises Http404."""
    try:
        return _choose(token, chosen, now)
    except Http404:
        return _chosen_before(token, chosen.password, at, now)


@transaction.atomic
def _choose(token: str, chosen: Chosen, now: datetime) -> Person:
    row = selectors.welcome(token)
    person = _locked(row.person_id)
    person.set_password(_password(chosen.password, person))
    if chosen.pin:
        _set_pin(person, chosen.pin)
    person.save()
    if not Welcome.objects.filter(pk=row.pk, used_at=None).update(used_at=now):
        raise Http404
    trace(keys.CHOSEN, f"person/{person.username}", actor=person)
    return person


def _chosen_before(token: str, password: str, at: str, now: datetime) -> Person:
    """Whoever chose that password through that link a moment ago, and was not answered."""
    since = now - SENT_AGAIN
    row = Welcome.objects.filter(digest=links.digest(token), used_at__gt=since).first()
    if row is None:
        raise Http404

    def look() -> Person | None:
        person = row.person
        return person if person.is_active and person.check_password(password) else None

    found = tried(f"welcome {row.pk}", at, look)
    if found is None:
        raise Http404
    return found


def _set_pin(person: Person, text: str) -> None:
    person.pin = make_password(pin(text))


@transaction.atomic
def set_password(given: NewPassword, *, actor: Person) -> Person:
    """Change one's own password, by whoever has just proved who they are."""
    row = _locked(actor.pk)
    row.set_password(_password(given.password, row))
    row.save(update_fields=["password"])
    trace(keys.CHANGED, f"person/{row.username}", actor=actor)
    return row


@transaction.atomic
def set_pin(given: NewPin, *, actor: Person) -> Person:
    """Set one's own PIN for the benches' tablets, by whoever has just proved who they are; an empty one
    takes it away."""
    row = _locked(actor.pk)
    if given.pin.strip():
        _set_pin(row, given.pin)
    else:
        row.pin = ""
    row.save(update_fields=["pin"])
    trace(keys.PIN if row.pin else keys.NO_PIN, f"person/{row.username}", actor=actor)
    return row


@transaction.atomic
def set_units(given: OwnUnits, *, actor: Person) -> Person:
    """Set how one reads volumes and torques."""
    row = _locked(actor.pk)
    units = reads(given.volume_unit, given.torque_unit, given.ounces)
    row.volume_unit, row.torque_unit, row.ounces = units
    row.save(update_fields=["volume_unit", "torque_unit", "ounces"])
    return row
