"""Who a request runs as: the one dependency that decides it."""

from __future__ import annotations

from typing import Annotated

from fastapi import Depends

from cinder.service.people import DEMO
from cinder.store.log import Who


def who_asks() -> Who:
    """Who a request runs as. Until accounts arrive: the demo company's demo engineer, decided only here."""
    return DEMO


Asker = Annotated[Who, Depends(who_asks)]
