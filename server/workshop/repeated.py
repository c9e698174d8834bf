"""What was sent, in short: the same id with anything else is no repetition."""

import json
from dataclasses import asdict, is_dataclass
from hashlib import sha256
from typing import Any


def digest(sent: Any) -> str:
    """A digest of what a client sent: a shape, or plain data."""
    told = asdict(sent) if is_dataclass(sent) and not isinstance(sent, type) else sent
    return sha256(json.dumps(told, sort_keys=True, default=str).encode()).hexdigest()
