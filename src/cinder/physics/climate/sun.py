"""Sun on a wall or a window, hour by hour."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cinder.errors import PhysicsError
from cinder.physics.climate.weather import HOURS
from cinder.physics.quantity import Array

YEAR = 2001  # an ordinary year without a leap day; only the sun's path depends on it
ALBEDO = 0.2
NOT_SQUARE_ON = 0.9
"""Share of the g-value left because the sun seldom stands square on the glass (ISO 52016-1, from memory)."""


@dataclass(frozen=True, slots=True)
class SunPath:
    """The sun over a place in the middle of each hour of a year: zenith and azimuth (8760,), deg, and the
    extraterrestrial beam (8760,), W/m2."""

    zenith_deg: Array
    azimuth_deg: Array
    extra_w_m2: Array


def sun_path(*, latitude_deg: float, longitude_deg: float, utc_offset_h: float) -> SunPath:
    """Where the sun stands in the middle of every hour of standard time.

    Weather is hour ending, so hour n is looked at half an hour before its end.
    Valid for: all latitudes. Source: `pvlib.solarposition` (ephemeris), `pvlib.irradiance.get_extra_radiation`.
    """
    import pandas as pd  # both slow to import: only the hour-by-hour year needs them
    from pvlib.irradiance import get_extra_radiation
    from pvlib.solarposition import ephemeris

    if not (-90 <= latitude_deg <= 90 and -180 <= longitude_deg <= 180):
        raise PhysicsError("latitude, longitude", (latitude_deg, longitude_deg), "no place on the earth")
    middle = pd.date_range(f"{YEAR}-01-01 00:30", periods=HOURS, freq="h", tz="UTC")
    middle = middle - pd.Timedelta(hours=utc_offset_h)
    at = ephemeris(middle, latitude_deg, longitude_deg)
    extra = get_extra_radiation(middle)
    return SunPath(np.asarray(at["zenith"], float), np.asarray(at["azimuth"], float), np.asarray(extra, float))


def on_plane_w_m2(
    path: SunPath, *, ghi_w_m2: Array, dni_w_m2: Array, dhi_w_m2: Array, azimuth_deg: float, tilt_deg: float = 90.0
) -> Array:
    """Irradiance on a plane, W/m2 (8760,): beam, sky by the Hay and Davies model, ground with albedo 0.2.

    `azimuth_deg`: compass bearing the plane looks at (0 north, 90 east); `tilt_deg` 90 is a wall, 0 a flat roof.
    Source: `pvlib.irradiance.get_total_irradiance`, model haydavies.
    """
    from pvlib.irradiance import get_total_irradiance

    total = get_total_irradiance(
        tilt_deg, azimuth_deg, path.zenith_deg, path.azimuth_deg, dni_w_m2, ghi_w_m2, dhi_w_m2,
        dni_extra=path.extra_w_m2, albedo=ALBEDO, model="haydavies",
    )  # fmt: skip
    return np.asarray(np.nan_to_num(np.asarray(total["poa_global"], float)), float)


def window_gain_w(
    *, area_m2: float, frame_share: float, g_value: float, shading: float, irradiance_w_m2: Array
) -> Array:
    """Sun let into a room by a window, W: A (1 - frame) g 0.9 shading I.

    `shading`: share of the sun that reaches the glass past trees, reveals, curtains (1 none).
    Source: ISO 52016-1 simplified (from memory).

    >>> float(window_gain_w(area_m2=2.0, frame_share=0.25, g_value=0.6, shading=0.5,
    ...                     irradiance_w_m2=np.array([500.0]))[0].round(1))
    202.5
    """
    for name, share in (("frame_share", frame_share), ("g_value", g_value), ("shading", shading)):
        if not 0 <= share <= 1:
            raise PhysicsError(name, share, "must lie between 0 and 1")
    return np.asarray(area_m2 * (1 - frame_share) * g_value * NOT_SQUARE_ON * shading * irradiance_w_m2)
