"""A device that keeps passkeys, by the words of the standard alone: W3C Web Authentication, level 3, 6.1
(authenticator data), 6.5.1 (attested credential data), 7.2 (what is signed)."""

import json
import secrets
import struct
from base64 import urlsafe_b64decode, urlsafe_b64encode
from hashlib import sha256
from typing import Any

import cbor2
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.hazmat.primitives.hashes import SHA256

PRESENT, VERIFIED, ATTESTED = 1, 4, 64


def text(raw: bytes) -> str:
    return urlsafe_b64encode(raw).rstrip(b"=").decode()


def raw(text: str) -> bytes:
    return urlsafe_b64decode(text + "=" * (-len(text) % 4))


class Authenticator:
    """One key, which counts how often it signed."""

    def __init__(self) -> None:
        self.key = ec.generate_private_key(ec.SECP256R1())
        self.id, self.count = secrets.token_bytes(32), 0

    def _data(self, host: str, flags: int, more: bytes = b"") -> bytes:
        return sha256(host.encode()).digest() + struct.pack(">BI", flags, self.count) + more

    def _cose(self) -> bytes:
        """RFC 9053, 7.1: an EC2 key for ES256 on P-256."""
        point = self.key.public_key().public_numbers()
        x, y = (n.to_bytes(32, "big") for n in (point.x, point.y))
        return bytes(cbor2.dumps({1: 2, 3: -7, -1: 1, -2: x, -3: y}))

    def _told(self, kind: str, challenge: str, origin: str) -> bytes:
        told = {"type": kind, "challenge": challenge, "origin": origin, "crossOrigin": False}
        return json.dumps(told).encode()

    def _answer(self, response: dict[str, bytes], extensions: dict[str, Any]) -> dict[str, Any]:
        return {
            "id": text(self.id),
            "rawId": text(self.id),
            "type": "public-key",
            "response": {name: text(value) for name, value in response.items()},
            "clientExtensionResults": extensions,
        }

    def make(self, options: str, origin: str) -> dict[str, Any]:
        """What the browser gives back for a passkey made."""
        asked = json.loads(options)
        attested = bytes(16) + struct.pack(">H", len(self.id)) + self.id + self._cose()
        data = self._data(asked["rp"]["id"], PRESENT | VERIFIED | ATTESTED, attested)
        whole = bytes(cbor2.dumps({"fmt": "none", "attStmt": {}, "authData": data}))
        told = self._told("webauthn.create", asked["challenge"], origin)
        return self._answer(
            {"clientDataJSON": told, "attestationObject": whole}, {"credProps": {"rk": True}}
        )

    def show(self, options: str, origin: str) -> dict[str, Any]:
        """What the browser gives back for a passkey shown."""
        asked, self.count = json.loads(options), self.count + 1
        data = self._data(asked["rpId"], PRESENT | VERIFIED)
        told = self._told("webauthn.get", asked["challenge"], origin)
        signed = self.key.sign(data + sha256(told).digest(), ec.ECDSA(SHA256()))
        return self._answer(
            {"clientDataJSON": told, "authenticatorData": data, "signature": signed}, {}
        )
