"""Faults of ours, by number."""

from __future__ import annotations

import logging
import secrets

logger = logging.getLogger("cinder.fault")


def fault_number(error: BaseException) -> str:
    """A short number under which a fault stands in the log, with all that is known of it."""
    number = secrets.token_hex(3)
    logger.error("fault %s", number, exc_info=error)
    return number
