"""Who a request runs as: the one dependency that decides it."""

from __future__ import annotations

from typing import Annotated

from fastapi import Depends, Query

from cinder.service.people import DEMO
from cinder.store.record import Who


def who_asks() -> Who:
    """Who a request runs as. Until accounts arrive: the demo company's demo engineer, decided only here."""
    return DEMO


Asker = Annotated[Who, Depends(who_asks)]
Holds = Annotated[int | None, Query(ge=1, le=2**62)]
"""The version of the job whose answer the page holds whole: it is then told only what changed since."""
