"""RFC 6902 operations on a job document: add, replace, remove, test; each with its inverse."""

from __future__ import annotations

from typing import Any

import jsonpatch
import jsonpointer

from cinder.errors import Conflict, InvalidChange, Problem
from cinder.model.operation import KINDS, Operation

MAX_OPERATIONS = 500
FIXED_PATHS = ("", "/format", "/schema", "/id")


def check(operations: list[Operation]) -> None:
    """Refuse what is no list of our four operations (raises `InvalidChange` naming the operation)."""
    if not operations:
        raise InvalidChange("A change needs at least one operation.")
    if len(operations) > MAX_OPERATIONS:
        raise InvalidChange(f"{len(operations)} operations; at most {MAX_OPERATIONS} make one change.")
    for n, operation in enumerate(operations):
        where = f"/operations/{n}"
        if not _is_pointer(operation.get("path")):
            raise InvalidChange("The path leads nowhere.", problems=(Problem(where, "is no JSON pointer"),))
        if operation.get("op") not in KINDS:
            raise InvalidChange(
                "An operation other than the four.", problems=(Problem(where, "use " + ", ".join(KINDS)),)
            )
        if operation.get("path") in FIXED_PATHS and operation["op"] != "test":
            raise InvalidChange(
                "That part of a job cannot be edited.", problems=(Problem(operation["path"], "is fixed"),)
            )
        if (operation["op"] == "remove") == ("value" in operation):
            what = "takes no value" if operation["op"] == "remove" else "needs a value"
            raise InvalidChange(f"{operation['op']} {what}.", problems=(Problem(operation["path"], what),))


def _is_pointer(path: Any) -> bool:
    try:
        jsonpointer.JsonPointer(path)
    except (jsonpointer.JsonPointerException, TypeError, AttributeError):
        return False
    return True


def apply(document: Any, operations: list[Operation]) -> tuple[Any, list[Operation]]:
    """The document after the operations, and the operations that take them back, in order.

    Raises `InvalidChange` where a path leads nowhere or an `add` meets an existing id,
    `Conflict` where a `test` fails. The given document is not touched.
    """
    result = document
    inverse: list[Operation] = []
    for operation in operations:
        path = operation["path"]
        try:
            result = _copied_along(result, jsonpointer.JsonPointer(path).parts)
            inverse.insert(0, _inverse(result, operation))
            result = jsonpatch.JsonPatch([operation]).apply(result, in_place=True)
        except jsonpatch.JsonPatchTestFailed:
            problem = Problem(path, "differs")
            raise Conflict("The value is no longer what the change expected.", problems=(problem,)) from None
        except (
            jsonpatch.JsonPatchException,
            jsonpointer.JsonPointerException,
            LookupError,
            TypeError,
            ValueError,
        ) as error:
            raise InvalidChange("The path leads nowhere.", problems=(Problem(path, _plain(error)),)) from None
    return result, [step for step in inverse if step["op"] != "test"]


def _plain(error: Exception) -> str:
    """What the package says, without the whole of what it was looking in."""
    return str(error).split(" in {")[0].split(" in [")[0][:200]


def _copied_along(document: Any, parts: list[str]) -> Any:
    """The document with every container on the way to a path copied, so that writing there leaves the old one whole.

    A document holds a few hundred kilobytes and an edit touches one path: copying all of it would take
    longer than everything else an edit does.
    """
    if not isinstance(document, (dict, list)):
        return document
    copied: Any = document.copy()
    if len(parts) > 1:
        numbered = isinstance(document, list) and parts[0].isascii() and parts[0].isdigit()
        key: Any = int(parts[0]) if numbered else parts[0]
        if (isinstance(document, dict) and key in document) or (isinstance(key, int) and key < len(document)):
            copied[key] = _copied_along(document[key], parts[1:])
    return copied


def _inverse(document: Any, operation: Operation) -> Operation:
    path = operation["path"]
    if operation["op"] == "test":
        return {"op": "test", "path": path}
    pointer = jsonpointer.JsonPointer(path)
    parent, last = pointer.to_last(document)
    if operation["op"] == "add":
        if isinstance(parent, list):
            index = len(parent) if last == "-" else last
            return {"op": "remove", "path": _child(pointer, str(index))}
        if last in parent:
            raise InvalidChange("Something with this id is already there.", problems=(Problem(path, "exists already"),))
        return {"op": "remove", "path": path}
    old = parent[last]
    return {"op": "replace" if operation["op"] == "replace" else "add", "path": path, "value": old}


def _child(pointer: Any, last: str) -> str:
    return str(jsonpointer.JsonPointer.from_parts([*pointer.parts[:-1], last]).path)


def touched(document: Any, operations: list[Operation]) -> list[str]:
    """Paths the operations write to; anything inside an array counts as the whole array."""
    out: list[str] = []
    for operation in operations:
        if operation["op"] == "test":
            continue
        parts = jsonpointer.JsonPointer(operation["path"]).parts
        here, kept = document, []
        for part in parts:
            if isinstance(here, list):
                break
            kept.append(part)
            here = here.get(part) if isinstance(here, dict) else None
        out.append(str(jsonpointer.JsonPointer.from_parts(kept).path))
    return sorted(set(out))


def meets(a: str, b: str) -> bool:
    """Whether one path equals, or is a prefix of, the other."""
    return a == b or a.startswith(b + "/") or b.startswith(a + "/")


def value_at(document: Any, path: str) -> Any:
    """The value at a path, None where there is none."""
    return jsonpointer.resolve_pointer(document, path, None)
