"""What every result shares."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from pydantic import BaseModel, ConfigDict

Severity = Literal["stops", "short", "doubt", "note"]
Screen = Literal[
    "call",
    "site",
    "climate",
    "walk-round",
    "plan",
    "doubts",
    "emitters",
    "constructions",
    "losses",
    "rooms",
    "air",
    "year",
    "measures",
    "report",
    "waterline",
    "machine",
    "hot-water",
    "pipework",
    "plant",
    "materials",
    "curve",
    "twin",
    "correction",
    "fire-up",
    "wiring",
    "practice",
    "offer",
    "pack",
    "winters",
]
_put = object.__setattr__
PLAIN = (str, int, float, type(None))


class Result(BaseModel):
    """Base of every result. Results are made by our own typed code, hundreds a design, so making one does not
    validate it: the type checker does that, and a test validates whole Designs."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    if not TYPE_CHECKING:

        def __init__(self, **data):
            fields = type(self).__pydantic_fields__
            if len(data) < len(fields):
                for name, info in fields.items():
                    if name not in data:
                        if info.is_required():
                            raise TypeError(f"{type(self).__name__} lacks {name}")
                        # strings, numbers and None stand for themselves; anything else is made anew
                        plain = isinstance(info.default, PLAIN)
                        data[name] = info.default if plain else info.get_default(call_default_factory=True)
            _put(self, "__dict__", data)
            _put(self, "__pydantic_fields_set__", set())
            _put(self, "__pydantic_extra__", None)
            _put(self, "__pydantic_private__", None)

        __init__.__pydantic_base_init__ = True  # so that model_validate still validates
