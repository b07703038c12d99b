"""Print the rules the browser works by, as data: python -m cinder.web.rules

They are made anew with the types (`./test`, `./start`), so there is no second copy to keep.
"""

from __future__ import annotations

import sys
from dataclasses import asdict
from typing import Any, get_args

import orjson
from pydantic import BaseModel

from cinder.design.hot_water.store import AROUND_C
from cinder.design.losses.piece import GROUND_WATER_FACTOR
from cinder.design.machine import clear
from cinder.design.schools import CHOICES
from cinder.exchange.report import PAPERS
from cinder.handover.offer import money as offer_money
from cinder.handover.offer import say as offer_say
from cinder.library.entries.prices import DISTURBS
from cinder.model import Practice, defaults, imperial
from cinder.model.handover import Offer, PaperKind, Permission
from cinder.model.job import Collectors, Solar
from cinder.model.pointers import HEIR, HOMES, POINTERS


def rules() -> dict[str, Any]:
    """Who points at whom, what something new begins with, words of a scale."""
    return {
        "pointers": [asdict(pointer) for pointer in POINTERS],
        "homes": HOMES,
        "heir": HEIR,
        "use_by_name": defaults.USE_BY_NAME,
        "room_height_m": defaults.ROOM_HEIGHT_M,
        "usual": defaults.USUAL,
        "comma_currencies": defaults.COMMA_CURRENCIES,
        "panel": defaults.PANEL,
        "openings": defaults.OPENINGS,
        "typical_rooms": defaults.TYPICAL_ROOMS,
        "call_fuels": defaults.CALL_FUELS,
        "emitters": defaults.EMITTERS,
        "store_around_c": AROUND_C,
        "bridges_w_m2k": defaults.BRIDGES_W_M2K,
        "ground_water_factor": GROUND_WATER_FACTOR,
        "heated_share": defaults.HEATED_SHARE,
        "primaries": defaults.PRIMARIES,
        "branch": defaults.BRANCH,
        "kv_parts": [{"label": label, "kv_m3h": kv} for label, kv in defaults.KV_PARTS],
        "layer": defaults.LAYER,
        "practice": Practice().model_dump(mode="json"),
        "schools": {
            field: [{"value": value, "label": label} for value, label in choices.items()]
            for field, choices in CHOICES.items()
        },
        "solar": _standing(Solar),
        "collectors": _standing(Collectors),
        "unit_m": {"wide": clear.UNIT_WIDE_M, "deep": clear.UNIT_DEEP_M},
        "disturbs": DISTURBS,
        "papers": {key: name for key, (name, _) in PAPERS.items()},
        "offer": _standing(Offer) | {"tasks": {}, "lines": {}, "taxes": {}, "payments": {}, "permissions": {}},
        "offer_words": {
            "prices": offer_say.PRICES_SHORT,
            "access": offer_say.ACCESS,
            "paid_when": offer_money.WHEN,
            "of": offer_money.OF,
            "usual_payments": ", ".join(f"{one.share:.0%} {offer_money.WHEN[one.when]}" for one in offer_money.USUAL),
            "permission_kinds": offer_say.KINDS,
            "permission_when": offer_say.WHEN_ASKED,
            "permission_states": get_args(Permission.model_fields["state"].annotation),
            "usual_permissions": [
                {"kind": kind, "label": label, "when": when} for kind, label, when in offer_say.USUAL
            ],
        },
        "paper_kinds": get_args(PaperKind),
        "imperial": {unit: asdict(other) for unit, other in imperial.UNITS.items()},
        "imperial_names": sorted(imperial.NAMES),
    }


def _standing(part: type[BaseModel]) -> dict[str, Any]:
    """What holds in a part where nobody says another."""
    return {name: field.default for name, field in part.model_fields.items() if not field.is_required()}


if __name__ == "__main__":
    sys.stdout.buffer.write(orjson.dumps(rules(), option=orjson.OPT_INDENT_2))
