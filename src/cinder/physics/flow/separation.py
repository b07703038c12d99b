"""Two circuits that meet in a vessel: how much hotter the machine's water must be; and how much water a machine wants to have."""

from __future__ import annotations

from scipy.optimize import brentq

from cinder.errors import PhysicsError
from cinder.physics.flow.fluid import MEAN_WATER_C, Fluid
from cinder.physics.quantity import require_not_negative, require_positive


def carried_w_k(*, flow_lph: float, fluid: Fluid) -> float:
    """Heat a flow carries for every kelvin of its spread, W/K, at 40 deg C.

    >>> from cinder.physics.flow.fluid import PLAIN
    >>> round(carried_w_k(flow_lph=172.0, fluid=PLAIN) * 5)
    991
    """
    return flow_lph * float(fluid.w_k_per_lph(temperature_c=MEAN_WATER_C))


def supply_c(*, machine_c: float, return_c: float, machine_lph: float, emitters_lph: float) -> float:
    """What reaches the emitters through a vessel in layers, deg C: the machine's water, thinned with return where the emitters move
    more than the machine. Source: mixing by hand.

    >>> round(supply_c(machine_c=45.0, return_c=35.0, machine_lph=600.0, emitters_lph=1000.0), 2)
    41.0
    """
    require_positive("emitters_lph", emitters_lph)
    part = min(machine_lph / emitters_lph, 1.0)
    return machine_c * part + return_c * (1 - part)


def lift_k(*, heat_w: float, machine_lph: float, emitters_lph: float, stirred: float, fluid: Fluid) -> float:
    """How much hotter the machine's water must be than what the emitters ask for, K.

    In layers: heat by (1/machine - 1/emitters), nothing where the machine moves as much or more. Stirred through, the emitters get the
    vessel's mixture: the machine's whole spread. `stirred` (0-1): so much of the way from the one to the other. Source: energy balance.
    """
    require_not_negative("heat_w", heat_w)
    if not 0 <= stirred <= 1:
        raise PhysicsError("stirred", stirred, "must lie between 0 and 1")
    mine = 1 / carried_w_k(flow_lph=require_flow("machine_lph", machine_lph), fluid=fluid)
    theirs = 1 / carried_w_k(flow_lph=require_flow("emitters_lph", emitters_lph), fluid=fluid)
    return heat_w * ((1 - stirred) * max(mine - theirs, 0.0) + stirred * mine)


def mixing_share(*, stirred: float, flows: float) -> float:
    """The part of both waters that must mix through a vessel, the rest running by, for the machine's water to be as much hotter than the
    emitters' as `lift_k` has it. What one side moves more goes through the vessel; at rest a heat balance on it says the part.

    `flows`: the machine's over the emitters', above 0. Raises `PhysicsError` where it is not, or where `stirred` leaves 0-1.
    Source: energy balance.

    >>> mixing_share(stirred=0.0, flows=0.7), round(mixing_share(stirred=0.25, flows=1.0), 3), mixing_share(stirred=1.0, flows=2.0)
    (0.0, 0.4, 1.0)
    """
    require_positive("flows", flows)
    if not 0 <= stirred <= 1:
        raise PhysicsError("stirred", stirred, "must lie between 0 and 1")
    if stirred in (0.0, 1.0):
        return stirred
    wanted = (1 - stirred) * max(1 - flows, 0.0) + stirred

    def off(s: float) -> float:
        if flows < 1:
            k = (1 - s) * flows
            return (1 - k) ** 2 / (1 - k + s * k) - wanted
        return s * s * flows / (s * (1 - s) + s * flows + (1 - s) * (flows - 1)) - wanted

    return float(brentq(off, 1e-9, 1.0))


def require_flow(name: str, flow_lph: float) -> float:
    """A flow that is one. Raises `PhysicsError` where it is not."""
    require_positive(name, flow_lph)
    return flow_lph


def litres_for(*, energy_j: float, drop_k: float, fluid: Fluid) -> float:
    """Water that gives an energy while it cools by a drop, L. Source: energy balance.

    >>> from cinder.physics.flow.fluid import PLAIN
    >>> round(litres_for(energy_j=7000.0 * 360, drop_k=5.0, fluid=PLAIN))
    122
    """
    require_positive("drop_k", drop_k)
    require_not_negative("energy_j", energy_j)
    return energy_j / (carried_w_k(flow_lph=3600.0, fluid=fluid) * drop_k)
