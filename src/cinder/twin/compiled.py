"""Compile what is compiled, so that nobody waits for it: python -m cinder.twin.compiled"""

from __future__ import annotations

from cinder.physics.ready import ready as physics_ready
from cinder.twin import loop
from cinder.twin.at_rest import spread_k
from cinder.twin.sample import one_room


def ready() -> None:
    """Make every compiled loop; a moment where that was done before."""
    physics_ready()
    house, weather = one_room()
    loop.run(house, weather, loop.start(house))
    spread_k(house.emitters, 0, supply_c=40.0, room_c=20.0, flow_w_k=20.0)


if __name__ == "__main__":
    ready()
