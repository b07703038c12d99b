"""The stand-in for a plant's gateway: a simulated plant served on Modbus TCP, at its own pace or many times quicker."""

from __future__ import annotations

import asyncio
import time
from contextlib import suppress

from pymodbus.constants import ExcCodes
from pymodbus.server import ModbusTcpServer
from pymodbus.simulator import DataType, SimData, SimDevice

from cinder.devices.plant import Plant
from cinder.devices.registers import (
    MOST_EMITTERS,
    MOST_ROOMS,
    PROBES_FROM,
    READINGS,
    READINGS_FROM,
    ROOMS_FROM,
    SETTINGS,
    SETTINGS_FROM,
)

READS = (1, 2, 3, 4)
TICK_S = 0.1
MOST_AT_ONCE_S = 6 * 3600.0
"""Time a tick makes up for at the most, so that questions are answered meanwhile."""
DEVICE = 1


class Gateway:
    """Serves one plant on loopback; `speed` seconds of the plant for one of ours. `lag_s`: how far the plant is behind its clock."""

    def __init__(self, plant: Plant, *, port: int, host: str = "127.0.0.1", speed: float = 1.0) -> None:
        self.plant, self.host, self.port, self.speed = plant, host, port, speed
        self.lag_s = 0.0
        self._server: ModbusTcpServer | None = None

    async def serve(self) -> None:
        """Until it is stopped."""
        readings = {
            READINGS_FROM: READINGS[-1].address + 1 - READINGS_FROM,
            ROOMS_FROM: MOST_ROOMS,
            PROBES_FROM: 2 * MOST_EMITTERS,
        }
        blocks = [
            SimData(at, values=[0] * count, datatype=DataType.REGISTERS, readonly=True)
            for at, count in readings.items()
        ]
        blocks.append(SimData(SETTINGS_FROM, values=[0] * len(SETTINGS), datatype=DataType.REGISTERS))
        device = SimDevice(DEVICE, simdata=blocks, action=self._asked)
        self._server = ModbusTcpServer([device], address=(self.host, self.port))
        clock = asyncio.create_task(self._goes_on())
        try:
            await self._server.serve_forever()
        finally:
            clock.cancel()
            with suppress(asyncio.CancelledError):
                await clock

    async def stop(self) -> None:
        """No more answers; the plant keeps where it stands."""
        if self._server is not None:
            await self._server.shutdown()  # type: ignore[no-untyped-call]

    async def _goes_on(self) -> None:
        begun, from_s = time.monotonic(), self.plant.time_s
        while True:
            wanted = from_s + (time.monotonic() - begun) * self.speed
            self.plant.advance(min(wanted, self.plant.time_s + MOST_AT_ONCE_S))
            self.lag_s = wanted - self.plant.time_s
            await asyncio.sleep(TICK_S)

    async def _asked(
        self,
        function: int,
        start: int,
        address: int,
        count: int,
        registers: list[int],
        values: list[int] | list[bool] | None,
    ) -> ExcCodes | None:
        """Before every answer: the words as they stand now; before every write: whether it may be."""
        if function in READS or values is None:
            for at, words in self.plant.words().items():
                registers[at - start : at - start + len(words)] = words
            return None
        by_address = {one.address: one for one in SETTINGS}
        found = []
        for n, word in enumerate(values):
            one = by_address.get(address + n)
            if one is None:
                return ExcCodes.ILLEGAL_ADDRESS
            value = one.unpack([int(word)])
            if not one.believable(value):
                return ExcCodes.ILLEGAL_VALUE
            found.append((one.key, value))
        for key, value in found:
            self.plant.set(key, value)
        return None
