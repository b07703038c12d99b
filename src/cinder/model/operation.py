"""One operation on a job document, as it is sent, kept and sent back: RFC 6902 with our four kinds."""

from __future__ import annotations

from typing import Any, Literal, NotRequired, TypedDict

KINDS = ("add", "replace", "remove", "test")


class Operation(TypedDict):
    """`value` for all but a removal. What comes from outside is looked at by `store.patch.check` before it is believed."""

    op: Literal["add", "replace", "remove", "test"]
    path: str
    value: NotRequired[Any]
