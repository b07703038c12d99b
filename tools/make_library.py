"""Writes the library tables that are computed: the invented machines and the generic climates.

    python tools/make_library.py

Machines follow a simple cycle: COP = fraction x Carnot between condensing (water + 3 K) and evaporating
(air - 8 K) temperature, less a frost share near 2 deg C. The fractions give a share of the plain Carnot COP of
0.42 to 0.47, as real cycles do (common practice). Outputs fall with colder air and hotter water.
Climates are synthetic hourly years: a yearly wave, a daily wave, passing weather as a red noise with a fixed seed; the
sun is a clear sky (Haurwitz) dimmed by a second red noise for clouds (Kasten and Czeplak) and split into beam and sky
(Erbs). They are nobody's measured weather and say so.
"""

from pathlib import Path

import numpy as np
import pandas as pd
from pvlib.clearsky import haurwitz
from pvlib.irradiance import erbs

from cinder.library.years import HourlyYear, sha256_of
from cinder.physics.climate.sun import sun_path
from cinder.physics.climate.weather import bins, coldest, monthly_means_c

DATA = Path(__file__).parents[1] / "src/cinder/library/data"
AIR = [-15.0, -7.0, 2.0, 7.0, 12.0]
WATER = [35.0, 45.0, 55.0, 65.0]

# id, label, kind, refrigerant, kg, kW at A7/W35, modulation, cycle fraction, coldest, hottest water
MACHINES = [
    ("rush-3", "Rush 3", "monobloc", "R290", 0.38, 3.4, 0.36, 0.58, -20, 68),
    ("teasel-4", "Teasel 4", "monobloc", "R290", 0.5, 4.8, 0.34, 0.585, -22, 70),
    ("reed-5-split", "Reed 5 split", "split", "R32", 1.1, 5.6, 0.3, 0.59, -20, 58),
    ("sedge-6", "Sedge 6", "monobloc", "R290", 0.65, 6.9, 0.32, 0.59, -22, 70),
    ("comfrey-7-hot", "Comfrey 7 hot", "monobloc", "R290", 0.9, 8.0, 0.38, 0.57, -25, 80),
    ("withy-8", "Withy 8", "monobloc", "R32", 1.3, 8.8, 0.36, 0.575, -20, 60),
    ("sedge-9", "Sedge 9", "monobloc", "R290", 0.95, 10.2, 0.30, 0.59, -22, 70),
    ("figwort-10-split", "Figwort 10 split", "split", "R32", 1.7, 11.0, 0.34, 0.575, -25, 60),
    ("yarrow-11", "Yarrow 11", "monobloc", "R32", 1.6, 12.2, 0.26, 0.585, -20, 60),
    ("osier-12", "Osier 12", "monobloc", "R290", 1.3, 13.6, 0.29, 0.58, -25, 72),
    ("marram-14", "Marram 14", "monobloc", "R290", 1.45, 15.4, 0.31, 0.575, -25, 70),
    ("bulrush-16", "Bulrush 16", "monobloc", "R32", 2.1, 17.8, 0.33, 0.565, -25, 62),
]
# id, label, design, annual mean, yearly half-swing, daily half-swing, weather spread, latitude, longitude, zone, cloud
CLIMATES = [
    ("mild-maritime", "Generic mild maritime", -3.0, 10.2, 6.2, 2.6, 2.9, 52.0, -2.0, 0, 0.66),
    ("cool-inland", "Generic cool inland", -8.0, 9.2, 8.6, 3.4, 3.9, 50.0, 11.0, 1, 0.62),
    ("alpine-valley", "Generic mountain valley", -14.0, 6.8, 9.6, 4.6, 4.2, 47.0, 10.0, 1, 0.52),
    ("northern-coast", "Generic northern coast", -17.0, 5.0, 10.0, 2.4, 4.6, 61.0, 15.0, 1, 0.62),
    ("cold-continental", "Generic cold continental", -24.0, 5.2, 15.0, 4.2, 5.6, 56.0, 38.0, 3, 0.6),
    ("far-north", "Generic far north", -30.0, 1.0, 14.0, 3.2, 6.4, 65.0, 27.0, 2, 0.62),
]
SEEDS = {"mild-maritime": 1908, "cool-inland": 1909, "cold-continental": 1910, "alpine-valley": 1911,
         "northern-coast": 1912, "far-north": 1913}  # fmt: skip
EN_14825 = "1 25 23 24 27 68 91 89 165 173 240 280 320 357 356 303 330 326 348 335 315 215 169 151 105 74"


def frost(air: float) -> float:
    """Share lost to defrosting: most in damp air just above freezing."""
    return 0.09 * float(np.exp(-(((air - 1.0) / 4.5) ** 2)))


def machine_rows() -> list[str]:
    out = ["# Twelve invented machines. Made by tools/make_library.py; nobody builds them.\n"]
    for key, label, kind, refrigerant, kg, kw, modulation, fraction, lowest, hottest in MACHINES:
        split, hot = kind == "split", hottest > 75
        waters = [*WATER, 75.0] if hot else WATER
        greatest, least, cop = [], [], []
        for air in AIR:
            size = 1 + 0.021 * (air - 7) if air < 7 else 1 + 0.012 * (air - 7)
            row = [kw * 1000 * size * (1 - frost(air)) * (1 - 0.0045 * (water - 35)) for water in waters]
            greatest.append([round(v, -1) for v in row])
            least.append([round(kw * 1000 * modulation * (1 + 0.014 * (air - 7)), -1) for _ in waters])
            row = []
            for water in waters:
                hot, cold = water + 3 + 273.15, air - 8 + 273.15
                sag = 1 - 0.0022 * abs(hot - cold - 45)
                row.append(round(fraction * sag * (1 - 0.7 * frost(air)) * hot / (hot - cold) * 0.95, 2))
            cop.append(row)
        flow = round(kw * 172, -1)
        heads = [76, 74, 66, 52, 32, 8] if kw > 9 else [68, 66, 58, 45, 27, 6]
        flows = [round(flow * f, -1) for f in (0, 0.4, 0.8, 1.1, 1.4, 1.7)]
        out.append(f"""[{key}]
label = "{label}"
kind = "{kind}"
refrigerant = "{refrigerant}"
refrigerant_kg = {kg}
flammable = true
outdoor_c = {AIR}
water_c = {waters}
greatest_w = {greatest}
least_w = {least}
cop = {cop}
defrost_included = true
evaporator_approach_k = 8
condenser_approach_k = 3
lowest_outdoor_c = {lowest}
limit_outdoor_c = [{lowest}, -10, 20]
limit_water_c = [{hottest - 8}, {hottest}, {hottest}]
least_flow_lph = {round(kw * 72, -1)}
rated_flow_lph = {flow}
pump_flow_lph = {flows}
pump_head_kpa = {heads}
least_volume_l = {round(kw * 6.2)}
content_l = {round(1.5 + kw * 0.22, 1)}
max_current_a = {round(5 + kw * 1.15)}
sound_power_day_db = {round(49 + 6.5 * np.log10(kw))}
sound_power_night_db = {round(46 + 6.0 * np.log10(kw))}
weight_kg = {round(60 + kw * 6.5)}
always_on_w = {round(25 + kw * 2.5)}
standby_w = {round(8 + kw * 0.4)}
quiet_output_share = {0.6 if kw < 9 else 0.65}
contains = {contains(kw, split, refrigerant)}
{lines(kw) if split else ""}source = "invented, by tools/make_library.py"
""")
    return out


def contains(kw: float, split: bool, refrigerant: str) -> str:
    """What is built in: indoor units of splits hold most, monoblocs of this make a pump and, with propane, a release."""
    parts = ['pump = "by spread"', f"relief_bar = {3.0 if split else 2.5}"]
    if split:
        parts += ["diverter = true", "diverter_rests = true", "heater_kw = 6.0", "vessel_l = 10.0"]
    else:
        parts += [f"heater_kw = {3.0 if kw < 7 else 0.0}"]
        if refrigerant == "R290":
            parts += ["refrigerant_release = true"]
    return "{ " + ", ".join(parts) + " }"


def lines(kw: float) -> str:
    gas = 12.7 if kw < 7 else 15.9
    return (
        f"lines = {{ gas_mm = {gas}, liquid_mm = {6.35 if kw < 7 else 9.52}, most_length_m = {30.0 if kw < 7 else 50.0}, "
        f"most_lift_m = {20.0 if kw < 7 else 30.0}, charged_length_m = 10.0, extra_g_per_m = {20.0 if kw < 7 else 35.0} }}\n"
    )


def red_noise(rng: np.random.Generator, memory: float) -> np.ndarray:
    noise = rng.standard_normal(8760)
    out = np.zeros(8760)
    for i in range(1, 8760):
        out[i] = memory * out[i - 1] + noise[i] * np.sqrt(1 - memory**2)
    return out - out.mean()


def sunshine(key: str, latitude: float, longitude: float, zone: float, cloud: float) -> tuple[np.ndarray, ...]:
    """Sun on the level, beam and sky, W/m2."""
    path = sun_path(latitude_deg=latitude, longitude_deg=longitude, utc_offset_h=zone)
    clear = haurwitz(pd.Series(path.zenith_deg))["ghi"].to_numpy()
    cover = np.clip(cloud + 0.34 * red_noise(np.random.default_rng(SEEDS[key] + 1000), 0.93), 0, 1)
    ghi = np.nan_to_num(clear * (1 - 0.75 * cover**3.4))
    when = pd.date_range("2001-01-01 00:30", periods=8760, freq="h")
    split = erbs(ghi, path.zenith_deg, when)
    return ghi, np.nan_to_num(np.asarray(split["dni"])), np.nan_to_num(np.asarray(split["dhi"]))


def climate_rows() -> list[str]:
    out = ["# Generic climates, by tools/make_library.py. Synthetic years (data/years), not measured weather.\n"]
    hour = np.arange(8760)
    (DATA / "years").mkdir(exist_ok=True)
    for key, label, design, mean, swing, daily, spread, latitude, longitude, zone, cloud in CLIMATES:
        weather = red_noise(np.random.default_rng(SEEDS[key]), 0.985)
        year = mean - swing * np.cos(2 * np.pi * (hour - 24 * 18) / 8760)
        year = np.round(year - daily * np.cos(2 * np.pi * (hour % 24 - 3) / 24) + spread * weather, 1)
        data = HourlyYear(year, *sunshine(key, latitude, longitude, zone, cloud)).write()
        (DATA / "years" / f"{key}.csv").write_bytes(data)
        values, counts = bins(year)
        cold = coldest(year)
        print(f"{key}: coldest {year.min():.1f}, 99.6 % {cold.p996_c:.1f}, design {design}")
        out.append(f"""[{key}]
label = "{label}"
design_c = {design}
annual_mean_c = {mean}
bin_outdoor_c = {[float(v) for v in values]}
bin_hours = {[float(c) for c in counts]}
synthetic = true
typical = false
latitude_deg = {latitude}
longitude_deg = {longitude}
utc_offset_h = {float(zone)}
altitude_m = 50.0
monthly_mean_c = {[round(float(v), 1) for v in monthly_means_c(year)]}
p996_c = {round(cold.p996_c, 1)}
p99_c = {round(cold.p99_c, 1)}
day_c = {round(cold.day_c, 1)}
three_days_c = {round(cold.three_days_c, 1)}
year_sha256 = "{sha256_of(data)}"
source = "synthetic: made for this library, measured nowhere"
""")
    hours = [float(h) for h in EN_14825.split()]
    out.append(f"""[en-14825-average]
label = "EN 14825 average heating season"
design_c = -10.0
annual_mean_c = 9.5
bin_outdoor_c = {[float(v) for v in range(-10, 16)]}
bin_hours = {hours}
synthetic = false
source = "EN 14825 bin table, from memory; annual mean is our choice"
""")
    return out


if __name__ == "__main__":
    (DATA / "machines.toml").write_text("\n".join(machine_rows()), encoding="utf-8")
    (DATA / "climates.toml").write_text("\n".join(climate_rows()), encoding="utf-8")
