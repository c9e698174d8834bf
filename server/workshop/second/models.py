from django.conf import settings
from django.db import models
from django_otp_webauthn.models import AbstractWebAuthnCredential


class Passkey(AbstractWebAuthnCredential):  # type: ignore[misc]
    """A key that a device keeps for somebody. ``host``: the name of the workshop it is good under;
    ``name``: what its owner calls it."""

    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="+")
    host = models.CharField(max_length=253)

    class Meta(AbstractWebAuthnCredential.Meta):  # type: ignore[misc]
        abstract = False
        ordering = ("pk",)
