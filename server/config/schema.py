"""Adds the one error shape, RFC 9457 problem details, to every operation of the schema."""

from typing import Any

TEXT = {"type": "string"}
PROBLEM = {
    "type": "object",
    "description": "RFC 9457 problem details. `detail` is a sentence a technician understands.",
    "required": ["type", "title", "status", "detail", "code", "question", "errors"],
    "properties": {
        "type": TEXT,
        "title": TEXT,
        "status": {"type": "integer"},
        "detail": TEXT,
        "code": TEXT,
        "question": {
            "type": "boolean",
            "description": "Nothing is wrong yet: answer with one of the options.",
        },
        "passkey": {
            "type": "string",
            "description": "What the browser is told to show a passkey, where one is asked for: JSON.",
        },
        "errors": {
            "type": "array",
            "items": {
                "type": "object",
                "required": ["pointer", "code", "detail", "options", "sure"],
                "properties": {
                    "pointer": TEXT,
                    "code": TEXT,
                    "detail": TEXT,
                    "options": {"type": "array", "items": TEXT},
                    "sure": {
                        "type": "string",
                        "description": "The option that says: it is as I typed it. Sent back as "
                        "`sure`, it may stand.",
                    },
                },
            },
        },
    },
}


def add_problem(result: dict[str, Any], **_: Any) -> dict[str, Any]:
    """Postprocessing hook of drf-spectacular."""
    result["components"]["schemas"]["Problem"] = PROBLEM
    answer = {
        "description": "Refused",
        "content": {
            "application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}
        },
    }
    for path in result["paths"].values():
        for operation in path.values():
            operation["responses"]["default"] = answer
    return result
