"""Secrets that are handed out once. What is kept of one is its digest alone."""

import hashlib
from base64 import urlsafe_b64encode

from django.utils.crypto import salted_hmac

HOURS = 72  # how long a one-time link is good


def token_of(act: object) -> str:
    """The secret of an act: the same act again gets the same one, and nobody without the server's key can
    tell it."""
    made = salted_hmac("oilward.link", str(act), algorithm="sha256").digest()
    return urlsafe_b64encode(made).decode().rstrip("=")


def digest(token: str) -> str:
    return hashlib.sha256(token.encode("utf-8", "replace")).hexdigest()


def path_of(token: str) -> str:
    return f"/welcome/{token}"
