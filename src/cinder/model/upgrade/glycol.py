"""Schema 3: the glycol of a scheme's machines becomes that of its water."""

from __future__ import annotations

from typing import Any

from cinder.model.operation import Operation
from cinder.model.upgrade.fields import without_field

_GONE = without_field("schemes", "*", "candidates", "*", "glycol_share")


class GlycolOfTheWater:
    """The share of the chosen machine, or else the greatest of any, becomes the scheme's."""

    def document(self, document: dict[str, Any]) -> dict[str, Any]:
        out = _GONE.document(document)
        for key, scheme in (document.get("schemes") or {}).items() if isinstance(document.get("schemes"), dict) else ():
            share = _share(scheme)
            if share:
                out["schemes"][key] = {**out["schemes"][key], "protection": {"kind": "glycol", "glycol_share": share}}
        return out

    def operation(self, operation: Operation) -> Operation | None:
        """A change of the old field falls away: it said nothing of the water of the others."""
        return _GONE.operation(operation)


def _share(scheme: Any) -> float:
    found = scheme.get("candidates") if isinstance(scheme, dict) else None
    shares = {
        key: one["glycol_share"]
        for key, one in (found.items() if isinstance(found, dict) else ())
        if isinstance(one, dict) and isinstance(one.get("glycol_share"), int | float)
    }
    chosen = shares.get(str(scheme.get("chosen"))) if isinstance(scheme, dict) else None
    return float(chosen if chosen is not None else max(shares.values(), default=0.0))


GLYCOL = GlycolOfTheWater()
