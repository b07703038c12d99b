"""What steps of the road are made of."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from cinder.model.operation import Operation


def steps_of(path: str) -> list[str]:
    """The steps of a JSON pointer."""
    return [step.replace("~1", "/").replace("~0", "~") for step in path.split("/")[1:]]


@dataclass(frozen=True, slots=True)
class WithoutField:
    """A field taken out; `place` leads to it, `*` for every key of a map."""

    place: tuple[str, ...]

    def document(self, document: dict[str, Any]) -> dict[str, Any]:
        out = _without(document, self.place)
        assert isinstance(out, dict)
        return out

    def operation(self, operation: Operation) -> Operation | None:
        """None for an operation on the field itself or within it; a value that holds it, without it."""
        steps = steps_of(operation["path"])
        met = all(p in ("*", s) for p, s in zip(self.place, steps, strict=False))
        if met and len(steps) >= len(self.place):
            return None
        if met and "value" in operation:
            return {**operation, "value": _without(operation["value"], self.place[len(steps) :])}
        return operation


def without_field(*place: str) -> WithoutField:
    return WithoutField(place)


def _without(node: Any, place: tuple[str, ...]) -> Any:
    """A copy along the place alone; what has another shape than expected stays, to be refused by its own name."""
    if not isinstance(node, dict):
        return node
    first, rest = place[0], place[1:]
    if not rest:
        return {key: value for key, value in node.items() if key != first}
    return {key: _without(value, rest) if first in ("*", key) else value for key, value in node.items()}
