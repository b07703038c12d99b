"""Compile what is compiled, so that nobody waits for it: python -m cinder.physics.compiled"""

from __future__ import annotations

from cinder.physics import room_balance, store_day


def ready() -> None:
    """Make every compiled loop; a moment where that was done before."""
    room_balance.ready()
    store_day.ready()


if __name__ == "__main__":
    ready()
