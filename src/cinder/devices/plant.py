"""A simulated plant behind the gateway: a twin with a clock, settings that can be written, meters that count."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from cinder.devices.registers import READINGS, SETTINGS, probe, room
from cinder.library import HourlyYear
from cinder.physics.climate.weather import HOURS
from cinder.physics.machine import curve as law
from cinder.twin import loop
from cinder.twin.faults import with_faults
from cinder.twin.of_job import Twin, weather_of
from cinder.twin.parts import HotWater, Weather

STEP_S = 60.0
NEVER_C = -90.0
AT_ONCE_J = 8.0 * 3.6e6
"""What a charge asked for by hand takes (our choice: about a store that has been drawn half)."""


class Plant:
    """A twin in its weather from an hour of the year on. Time moves by `advance` alone, so that it is told by whoever has a clock."""

    def __init__(
        self,
        twin: Twin,
        year: HourlyYear,
        *,
        first_hour: int = 0,
        shift_k: float = 0.0,
        faults: Sequence[str] = (),
        at: int = 0,
    ) -> None:
        self.twin, self.year, self.first_hour, self.shift_k = twin, year, first_hour, shift_k
        curve = twin.design.curve
        self.settings: dict[str, float] = {
            "cold_out_c": curve.cold_out_c or -3.0, "cold_flow_c": curve.cold_flow_c or 45.0, "mild_out_c": curve.mild_out_c or 15.0,
            "mild_flow_c": curve.mild_flow_c or 28.0, "greatest_flow_c": curve.greatest_flow_c or 55.0,
            "least_flow_c": curve.least_flow_c or 20.0, "heating_limit_c": curve.heating_limit_c, "heating_on": 1.0,
            "hot_water_on": 1.0, "charge_c": twin.house.hot_water.charge_c, "charge_now": 0.0,
        }  # fmt: skip
        self.house = with_faults(twin.house, faults, at=at)
        self._as_delivered = "default-curve" in faults
        self._charges = self.house.hot_water
        self.time_s = 0.0
        self._day: tuple[int, Weather] | None = None
        first = self._weather(0)
        self.state = loop.start(self.house, supply_c=30.0, outdoor_c=float(first.outdoor_c[0]))
        self.electric_kwh = self.heat_kwh = 0.0
        self.last: loop.Series | None = None
        self._sun = 0.0
        self.advance(STEP_S)

    def _weather(self, day: int) -> Weather:
        if self._day is None or self._day[0] != day:
            first = (self.first_hour + day * 24) % HOURS
            self._day = (
                day,
                weather_of(self.twin, self.year, shift_k=self.shift_k, first_hour=first, hours=24, step_s=STEP_S),
            )
        return self._day[1]

    def set(self, key: str, value: float) -> None:
        """A setting written by somebody; those beyond their limits are refused before they come here."""
        self.settings[key] = value
        if key == "charge_now":
            if value:
                self.state.plain[loop.WANTS_J] += AT_ONCE_J
            self.settings[key] = 0.0
            return
        s, control = self.settings, self.house.control
        if key in ("cold_out_c", "cold_flow_c", "mild_out_c", "mild_flow_c", "greatest_flow_c", "least_flow_c"):
            line = law.TwoPoint(
                s["cold_out_c"],
                s["cold_flow_c"],
                s["mild_out_c"],
                s["mild_flow_c"],
                s["least_flow_c"],
                s["greatest_flow_c"],
            )
            out = control.line_from_c + np.arange(float(len(control.line_c)))
            # what is dialled in is the emitters' water; the machine's is hotter by what lies between
            control = control._replace(
                line_c=law.flow_at(line, outdoor_c=out) + self.twin.design.separation.lift_at(out)
            )
        control = control._replace(heating_limit_c=s["heating_limit_c"] if s["heating_on"] else NEVER_C)
        none = np.zeros(0)
        water = (
            self._charges._replace(charge_c=s["charge_c"]) if s["hot_water_on"] else HotWater(none, none, s["charge_c"])
        )
        self.house = self.house._replace(control=control, hot_water=water)

    def advance(self, to_s: float) -> None:
        """Time moves on to `to_s` in whole steps."""
        while self.time_s + STEP_S <= to_s + 1e-6:
            day, within = divmod(self.time_s, loop.DAY_S)
            weather = self._weather(int(day))
            first = round(within / STEP_S)
            steps = min(round((to_s - self.time_s) // STEP_S), len(weather.outdoor_c) - first)
            part = slice(first, first + steps)
            cut = Weather(
                STEP_S, weather.outdoor_c[part], weather.ghi_w_m2[part], weather.sun_w[part], weather.people_w[part],
                (weather.hour + within / 3600.0) % 24.0,
            )  # fmt: skip
            self.last, self.state, sums = loop.run(self.house, cut, self.state)
            self.electric_kwh += sums["electric"] / 3.6e6
            self.heat_kwh += (sums["heat"] + sums["store"] - sums["defrost"]) / 3.6e6
            self._air, self._sun = float(cut.outdoor_c[-1]), float(cut.ghi_w_m2[-1])
            self.time_s += steps * STEP_S

    def words(self) -> dict[int, list[int]]:
        """Everything that can be read, as words by address."""
        assert self.last is not None
        last, control = self.last, self.house.control
        flow = float(self.twin.flow_lph(last.flow_w_k, last.supply_c, last.return_c)[-1])
        read = {
            "outdoor_c": self._air + control.sensor_k + control.sensor_per_sun * self._sun, "supply_c": last.supply_c[-1],
            "return_c": last.return_c[-1], "flow_lph": flow, "electric_w": last.electric_w[-1],
            "heat_w": last.heat_w[-1] + last.store_w[-1], "mode": last.mode[-1], "fault": 0.0, "electric_kwh": self.electric_kwh,
            "heat_kwh": self.heat_kwh, "time_s": self.time_s, "wanted_c": last.wanted_c[-1], "rooms": float(len(self.twin.rooms)),
            "emitters": float(len(self.twin.emitters)), "sun_w_m2": self._sun,
        }  # fmt: skip
        out = {one.address: one.pack(float(read[one.key])) for one in READINGS}
        out |= {one.address: one.pack(self.settings[one.key]) for one in SETTINGS}
        air = last.room_c[-1]
        out |= {room(n).address: room(n).pack(float(air[n])) for n in range(len(air))}
        moving = last.flow_w_k[-1] > 0
        feed = float(last.supply_c[-1])
        for n, mean in enumerate(self.state.emitter_c):
            hot = feed if moving else float(mean)
            cool = max(2 * float(mean) - feed, float(air[self.house.emitters.room[n]])) if moving else float(mean)
            out[probe(n, "flow").address] = probe(n, "flow").pack(hot)
            out[probe(n, "return").address] = probe(n, "return").pack(cool)
        return out
