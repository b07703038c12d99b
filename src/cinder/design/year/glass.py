"""The glass of a house by the way it looks, and the sun on it hour by hour."""

from __future__ import annotations

import math
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass
from threading import Lock

import numpy as np

from cinder.design.house.rooms import RoomView
from cinder.design.house.view import HouseView
from cinder.library import HourlyYear
from cinder.physics.climate.sun import SunPath, on_plane_w_m2, sun_path, window_gain_w
from cinder.physics.climate.weather import HOURS
from cinder.physics.quantity import Array

ROUND_DEG = 15.0
"""Windows are put into bearings of 15 degrees: the sun on them differs by less than the weather does."""
PLAIN_G, PLAIN_FRAME = 0.6, 0.3
KEPT_SUNS = 200
_suns: OrderedDict[tuple[int, float, float, float, float, float], Array] = OrderedDict()
_paths: OrderedDict[tuple[float, float, float], SunPath] = OrderedDict()
_lock = Lock()


@dataclass(slots=True)
class Glass:
    """Windows that look the same way: effective area A (1 - f) g 0.9 shading, m2."""

    azimuth_deg: float | None
    tilt_deg: float
    area_m2: float = 0.0
    effective_m2: float = 0.0


def glazing(house: HouseView, rooms: Sequence[RoomView] | None = None) -> list[Glass]:
    """Every window, of the house or of some of its rooms, by the way it looks; a room without its place on the plan looks every way at
    once (None)."""
    found: dict[tuple[float | None, float], Glass] = {}
    north = house.job.site.north_deg
    for room in house.rooms if rooms is None else rooms:
        normals = {wall.id: wall.normal for wall in room.shape.walls} if room.shape else {}
        angles = {key: slope.angle_deg for key, slope in room.room.slopes.items()}
        runs = {key: slope.run for key, slope in room.room.slopes.items()}
        for face in room.faces:
            for piece in face.pieces:
                if piece.stretch.beyond.kind != "outside":
                    continue
                tilt = 90.0 if face.kind == "wall" else angles.get(face.key) or 0.0
                normal = normals.get(runs.get(face.key, face.key))
                azimuth = None
                if normal is not None and north is not None and room.shape is not None and room.shape.placed:
                    bearing = north + math.degrees(math.atan2(normal[0], normal[1]))
                    azimuth = round(bearing / ROUND_DEG) * ROUND_DEG % 360
                for opening in piece.openings:
                    if opening.kind != "window" or not opening.area_m2 or opening.construction is None:
                        continue
                    glass = house.constructions[opening.construction].glazing
                    own = room.room.faces[face.key].openings[opening.id].sunlit
                    lit = own if own is not None else house.practice.sunlit
                    one = found.setdefault((azimuth, tilt), Glass(azimuth, tilt))
                    one.area_m2 += opening.area_m2
                    one.effective_m2 += float(
                        window_gain_w(
                            area_m2=opening.area_m2, frame_share=glass.frame_share if glass else PLAIN_FRAME,
                            g_value=glass.g_value if glass else PLAIN_G, shading=lit, irradiance_w_m2=np.array(1.0),
                        )
                    )  # fmt: skip
    return sorted(found.values(), key=lambda g: -g.effective_m2)


def _path(latitude: float, longitude: float, offset: float) -> SunPath:
    key = (latitude, longitude, offset)
    with _lock:
        known = _paths.get(key)
    if known is None:
        known = sun_path(latitude_deg=latitude, longitude_deg=longitude, utc_offset_h=offset)
        with _lock:
            _paths[key] = known
            while len(_paths) > KEPT_SUNS:
                _paths.popitem(last=False)
    return known


def sun_on(house: HouseView, weather: HourlyYear, azimuth: float | None, tilt: float) -> Array:
    """Sun on a plane, W/m2 (8760,), remembered; a plane of unknown bearing takes the mean of four."""
    climate = house.climate
    if climate is None or climate.latitude_deg is None or climate.longitude_deg is None:
        return np.zeros(HOURS)
    if azimuth is None and tilt > 0:
        four: Array = np.mean([sun_on(house, weather, quarter, tilt) for quarter in (0.0, 90.0, 180.0, 270.0)], axis=0)
        return four
    key = (id(weather), climate.latitude_deg, climate.longitude_deg, climate.utc_offset_h, azimuth or 0.0, tilt)
    with _lock:
        known = _suns.get(key)
    if known is None:
        known = on_plane_w_m2(
            _path(climate.latitude_deg, climate.longitude_deg, climate.utc_offset_h),
            ghi_w_m2=weather.ghi_w_m2, dni_w_m2=weather.dni_w_m2, dhi_w_m2=weather.dhi_w_m2,
            azimuth_deg=azimuth or 0.0, tilt_deg=tilt,
        )  # fmt: skip
        with _lock:
            _suns[key] = known
            while len(_suns) > KEPT_SUNS:
                _suns.popitem(last=False)
    return known
