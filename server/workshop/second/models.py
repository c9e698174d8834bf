from django.db import models
from django_otp_webauthn.models import AbstractWebAuthnCredential


class Passkey(AbstractWebAuthnCredential):
    """A key that a device keeps for somebody. ``host``: the name of the workshop it is good under;
    ``name``: what its owner calls it."""

    host = models.CharField(max_length=253)

    class Meta(AbstractWebAuthnCredential.Meta):
        abstract = False
        ordering = ("pk",)
