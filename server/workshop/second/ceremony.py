"""Passkeys between one browser and this server (W3C Web Authentication, level 3): what is asked, and how
an answer is proven, is py_webauthn's. Nobody is asked who made their device."""

from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from typing import Any

from django.utils.crypto import salted_hmac
from webauthn import (
    base64url_to_bytes,
    generate_authentication_options,
    generate_registration_options,
    options_to_json,
    verify_authentication_response,
    verify_registration_response,
)
from webauthn.helpers import (
    bytes_to_base64url,
    parse_authentication_credential_json,
    parse_registration_credential_json,
)
from webauthn.helpers.exceptions import WebAuthnException
from webauthn.helpers.structs import (
    AuthenticatorSelectionCriteria,
    AuthenticatorTransport,
    PublicKeyCredentialDescriptor,
    ResidentKeyRequirement,
    UserVerificationRequirement,
)

from workshop.models import Person

from .models import Passkey, digest
from .place import GOOD_FOR, NoPasskey, Place

# what crafted bytes make the library's readers raise besides its own
_UNREADABLE = (ValueError, TypeError, LookupError, AttributeError, ArithmeticError, RecursionError)
_KINDS = {one.value for one in AuthenticatorTransport}


@contextmanager
def _reading() -> Iterator[None]:
    """What cannot be read, or does not hold, is no passkey."""
    try:
        yield
    except (WebAuthnException, *_UNREADABLE) as error:
        raise NoPasskey from error


def _known(rows: Iterable[Passkey]) -> list[PublicKeyCredentialDescriptor]:
    return [
        PublicKeyCredentialDescriptor(
            id=bytes(row.credential_id),
            transports=[AuthenticatorTransport(one) for one in row.transports if one in _KINDS],
        )
        for row in rows
    ]


def _handle(person: Person) -> bytes:
    """What a device knows somebody by; it says nothing of them."""
    return salted_hmac("workshop.passkey", str(person.pk), algorithm="sha256").digest()


def _told(options: Any) -> tuple[str, str]:
    return options_to_json(options), bytes_to_base64url(options.challenge)


def to_make(place: Place, person: Person) -> tuple[str, str]:
    """What the device is told to make one, as JSON, and the challenge in it."""
    options = generate_registration_options(
        rp_id=place.host,
        rp_name="Oil Ward",
        user_id=_handle(person),
        user_name=person.username,
        user_display_name=person.name,
        timeout=GOOD_FOR * 1000,
        exclude_credentials=_known(Passkey.objects.filter(user=person)),
        authenticator_selection=AuthenticatorSelectionCriteria(
            resident_key=ResidentKeyRequirement.PREFERRED,
            user_verification=UserVerificationRequirement.PREFERRED,
        ),
    )
    return _told(options)


def made(place: Place, person: Person, challenge: str, answer: str) -> Passkey:
    """The passkey that the device made, not kept yet. Raises NoPasskey."""
    with _reading():
        told = parse_registration_credential_json(answer)
        proven = verify_registration_response(
            credential=told,
            expected_challenge=base64url_to_bytes(challenge),
            expected_rp_id=place.host,
            expected_origin=place.origin,
        )
        return Passkey(
            user=person,
            host=place.host,
            credential_id=proven.credential_id,
            digest=digest(proven.credential_id),
            public_key=proven.credential_public_key,
            sign_count=proven.sign_count,
            transports=[one.value for one in told.response.transports or []],
        )


def to_show(place: Place, rows: Iterable[Passkey]) -> tuple[str, str]:
    """What the device is told to show one of these, as JSON, and the challenge in it."""
    options = generate_authentication_options(
        rp_id=place.host,
        timeout=GOOD_FOR * 1000,
        allow_credentials=_known(rows),
        user_verification=UserVerificationRequirement.DISCOURAGED,
    )
    return _told(options)


def shown(place: Place, person: Person, challenge: str, answer: str) -> Passkey:
    """This person's, with the count it showed, not kept yet. Raises NoPasskey: for a count that does not
    go up as well (7.2, step 22)."""
    with _reading():
        told = parse_authentication_credential_json(answer)
        row = Passkey.objects.filter(
            digest=digest(told.raw_id), user=person, host=place.host
        ).first()
        if row is None:
            raise LookupError(told.id)
        proven = verify_authentication_response(
            credential=told,
            credential_current_sign_count=row.sign_count,
            credential_public_key=bytes(row.public_key),
            expected_challenge=base64url_to_bytes(challenge),
            expected_rp_id=place.host,
            expected_origin=place.origin,
        )
        row.sign_count = proven.new_sign_count
        return row
