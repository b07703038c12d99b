"""The application's side of the wire: reads a gateway by our register map, at addresses the operator has listed alone.

Whatever comes back is looked at before it is believed: what cannot be is named and left out, the rest is kept.
"""

from __future__ import annotations

import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from functools import partial

from pymodbus.client import ModbusTcpClient
from pymodbus.exceptions import ModbusException
from pymodbus.pdu import ModbusPDU

from cinder.devices.registers import (
    ABSENT,
    BY_KEY,
    MOST_EMITTERS,
    MOST_ROOMS,
    READINGS,
    SETTINGS,
    Register,
    probe,
    room,
)
from cinder.errors import Refused

DEVICE = 1
AT_ONCE = 100
"""Words asked for in one question (125 is the most the protocol has)."""
OPTIONAL = ("sun_w_m2",)
JUMPS = {"outdoor_c": 8.0, "supply_c": 45.0, "return_c": 45.0}
"""What a reading may move between two that lie close, K: more is a sensor that jumps (our choice)."""


class GatewayLost(Refused):
    """A gateway that does not answer, or answers what is no answer."""


@dataclass(slots=True)
class Reading:
    """One look at a plant: figures by key, what was not believed and why, and how long it took, s."""

    taken_at: float
    figures: dict[str, float] = field(default_factory=dict)
    rooms_c: list[float | None] = field(default_factory=list)
    tails_c: list[tuple[float | None, float | None]] = field(default_factory=list)
    problems: list[str] = field(default_factory=list)
    took_s: float = 0.0


class GatewayClient:
    """Reads and sets one gateway. `listed`: the host:port pairs the operator allows; nothing else is ever called."""

    def __init__(self, host: str, port: int, *, listed: Sequence[str], timeout_s: float = 2.0) -> None:
        if f"{host}:{port}" not in listed:
            raise Refused(
                f"{host}:{port} is not among the gateways the operator has listed ({', '.join(listed) or 'none'})."
            )
        self.where = f"{host}:{port}"
        self._client = ModbusTcpClient(host, port=port, timeout=timeout_s, retries=1)
        self._before: Reading | None = None

    def close(self) -> None:
        self._client.close()  # type: ignore[no-untyped-call]

    def read(self) -> Reading:
        """Everything there is. Raises `GatewayLost`, naming the gateway, where nothing comes or nothing can be read."""
        begun = time.monotonic()
        out = Reading(time.time())
        first = READINGS[0].address
        words = self._words(first, READINGS[-1].address + 1 - first)
        for one in READINGS:
            self._take(out, one, words[one.address - first : one.address - first + one.words])
        words = self._words(SETTINGS[0].address, len(SETTINGS))
        for n, one in enumerate(SETTINGS):
            self._take(out, one, words[n : n + 1])
        rooms, emitters = int(out.figures.get("rooms", 0)), int(out.figures.get("emitters", 0))
        air = self._words(room(0).address, min(rooms, MOST_ROOMS))
        out.rooms_c = [self._believed(out, room(n), [word]) for n, word in enumerate(air)]
        tails = self._words(probe(0, "flow").address, 2 * min(emitters, MOST_EMITTERS))
        pairs = [tails[at : at + 2] for at in range(0, len(tails) - 1, 2)]
        out.tails_c = [
            (self._believed(out, probe(n, "flow"), pair[:1]), self._believed(out, probe(n, "return"), pair[1:]))
            for n, pair in enumerate(pairs)
        ]
        self._against_the_last(out)
        out.took_s = time.monotonic() - begun
        self._before = out
        return out

    def write(self, key: str, value: float) -> None:
        """A setting by its key. Raises `Refused` for what is no setting or lies beyond its limits, `GatewayLost` as `read`."""
        one = BY_KEY.get(key)
        if one is None or not one.writable:
            raise Refused(f"{key} is no setting of the gateway {self.where}.")
        if not one.believable(value):
            raise Refused(
                f"{one.label}: {value:g} {one.unit} lies beyond {one.low:g} to {one.high:g}; nothing was written to {self.where}."
            )
        answer = self._said(partial(self._client.write_registers, one.address, one.pack(value), device_id=DEVICE))
        if answer.isError():
            raise GatewayLost(
                f"{self.where} refused {one.label.lower()} {value:g} {one.unit} (code {answer.exception_code}); it keeps what it had."
            )

    def _words(self, address: int, count: int) -> list[int]:
        out: list[int] = []
        while len(out) < count:
            part = min(AT_ONCE, count - len(out))
            at = address + len(out)
            answer = self._said(partial(self._client.read_holding_registers, at, count=part, device_id=DEVICE))
            if answer.isError():
                raise GatewayLost(
                    f"{self.where} has nothing at {at} to {at + part - 1} (code {answer.exception_code})."
                )
            if len(answer.registers) != part:
                raise GatewayLost(
                    f"{self.where} answered {len(answer.registers)} words where {part} were asked for, at {at}."
                )
            out += answer.registers
        return out

    def _said(self, ask: Callable[[], ModbusPDU]) -> ModbusPDU:
        try:
            if not self._client.connected and not self._client.connect():  # type: ignore[no-untyped-call]
                raise GatewayLost(f"{self.where} takes no call: is it switched on, and on this network?")
            return ask()
        except (ModbusException, OSError) as why:
            self.close()
            raise GatewayLost(f"{self.where} did not answer as it should: {why}") from why

    def _take(self, out: Reading, one: Register, words: list[int]) -> None:
        value = self._believed(out, one, words)
        if value is not None:
            out.figures[one.key] = value

    def _believed(self, out: Reading, one: Register, words: list[int]) -> float | None:
        if one.key in OPTIONAL and words == [ABSENT]:
            return None
        value = one.unpack(words)
        if one.believable(value):
            return value
        out.problems.append(f"{one.label}: {value:g} {one.unit} cannot be; left out.")
        return None

    def _against_the_last(self, out: Reading) -> None:
        """A clock that stands still or runs back, a meter that counts down, a sensor that jumps."""
        before = self._before.figures if self._before is not None else {}
        now = out.figures
        if not before:
            return
        moved = now.get("time_s", 0.0) - before.get("time_s", 0.0)
        if moved == 0:
            out.problems.append("The plant's clock stands still: the same moment twice.")
        elif moved < 0:
            out.problems.append("The plant's clock ran back.")
        for key in ("electric_kwh", "heat_kwh"):
            if key in now and key in before and now[key] < before[key] - 1e-9:
                out.problems.append(
                    f"{BY_KEY[key].label} counted down from {before[key]:g} to {now[key]:g} kWh: replaced, or begun again."
                )
        for key, most in JUMPS.items():
            if 0 <= moved <= 120 and key in now and key in before and abs(now[key] - before[key]) > most:
                out.problems.append(f"{BY_KEY[key].label} jumped from {before[key]:g} to {now[key]:g} °C.")
