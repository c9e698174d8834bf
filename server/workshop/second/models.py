from hashlib import sha256

from django.conf import settings
from django.db import models


def digest(credential_id: bytes) -> str:
    """What a passkey is found by: an id may be 1,023 bytes long."""
    return sha256(credential_id).hexdigest()


class Passkey(models.Model):
    """A key that a device keeps for somebody (W3C Web Authentication, level 3, credential record).
    ``host``: the name of the workshop it is good under; ``name``: what its owner calls it."""

    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="+")
    name = models.CharField(max_length=64)
    host = models.CharField(max_length=253)
    digest = models.CharField(max_length=64, unique=True)
    credential_id = models.BinaryField()
    public_key = models.BinaryField()
    sign_count = models.PositiveBigIntegerField(default=0)
    transports = models.JSONField(default=list)
    created_at = models.DateTimeField(auto_now_add=True)
    last_used_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ("pk",)
