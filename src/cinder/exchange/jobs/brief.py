"""A house in brief: a short TOML text that becomes a job. For reference houses and for typing one by hand.

    title = "Three rooms"
    age = "1960-1980"
    climate = "mild-maritime"
    [rooms.living]
    label = "Living room"
    use = "living"
    storey = "ground"
    size = [4.0, 5.0, 2.4]                       # width, length, height, m
    walls = ["outside", "outside", "room:hall", "heated"]
    floor = "ground"
    ceiling = "space:loft"
    windows = [{ wall = 1, size = [1.8, 1.2], type = "window-double-old" }]
    emitters = [{ id = "r1", type = "t22", size = [1.2, 0.6], valve = "lockshields" }]
    [pipes.main]
    size = "copper 22"
    length = 4.0
    [pipes.to-living]
    from = "main"
    to = "r1"
    size = "copper 15"
    length = 6.0                                          # or `way = [[0.2, 3.9], [3.1, 3.9]]`, or both

    [rooms.parlour]
    height = 2.55
    walk = [[4.6, 90], [4.1, 90], [4.6, 90], [4.1, 90]]   # length, then turn (right is positive)
    at = [0.0, 4.1]                                       # where the walk begins on the plan; `turned` in degrees
    slopes = [{ run = "w2", knee = 1.0, angle = 45 }]
    voids = [{ face = "floor", at = [0.5, -1.0], size = [0.9, 2.6] }]
    beyond = { w9 = "heated" }                            # overrides by face
    air = { vents = 2 }
    [spaces.loft]                                         # solved from its own faces when it has any
    faces = { slope = { area_m2 = 70.0, construction = "roof-cover-tiles" } }

Library entries named are frozen into the job. A room with `at` learns what lies beyond its walls from the plan.
"""

from __future__ import annotations

import tomllib
from typing import Any

from cinder.errors import InvalidJob, MalformedJson, Problem
from cinder.exchange.jobs.starter import start_job
from cinder.library import FROZEN, Library, load
from cinder.model import freeze, parse


class _Builder:
    def __init__(self, source: dict[str, Any], library: Library) -> None:
        self.source = source
        self.library = library
        self.job = start_job(
            job_id=source.get("id", "house"),
            title=source.get("title", "House"),
            age=source.get("age"),
            climate=source.get("climate"),
            library=library,
        )

    def take(self, kind: str, key: str, where: str) -> str:
        """Freeze a library entry into the job and give its id back."""
        entries = getattr(self.library, kind)
        if key not in entries:
            raise InvalidJob(f"There is no {FROZEN[kind]} {key!r}.", problems=(Problem(where, "not in the library"),))
        self.job["library"].setdefault(kind, {}).setdefault(key, freeze(entries[key]))
        return key

    def beyond(self, text: str) -> dict[str, Any]:
        kind, _, name = text.partition(":")
        return {"kind": kind, kind: name} if name else {"kind": kind}

    def opening(self, row: dict[str, Any], kind: str, where: str) -> dict[str, Any]:
        out = {"kind": kind, "width_m": row["size"][0], "height_m": row["size"][1]}
        if "type" in row:
            out["construction"] = self.take("constructions", row["type"], where)
        for name, field in (("label", "label"), ("offset", "offset_m"), ("sunlit", "sunlit")):
            if name in row:
                out[field] = row[name]
        if "known" in row:
            out["known"] = {"size": {"how": row["known"]}}
        if "type_known" in row:
            out.setdefault("known", {})["construction"] = {"how": row["type_known"]}
        return out

    def face(self, beyond: str | None, construction: str | None, where: str) -> dict[str, Any]:
        out: dict[str, Any] = {"openings": {}}
        if beyond:
            out["spans"] = {"all": {"beyond": self.beyond(beyond)}}
        if construction:
            out["construction"] = self.take("constructions", construction, where)
        return out

    def spec(self, row: dict[str, Any], where: str) -> dict[str, Any]:
        out: dict[str, Any] = {k: row[k] for k in ("output_w", "excess_k", "exponent", "water_l", "valve") if k in row}
        out |= {k: row[k] for k in ("spread_k", "connection", "obstructions", "speed") if k in row}
        if "type" in row:
            out |= {"kind": "panel", "type": self.take("emitter_types", row["type"], where)}
            out |= {"length_m": row["size"][0], "height_m": row["size"][1]}
        elif "speeds" in row:
            out |= {"kind": "fan", "speeds": row["speeds"]}
        elif "floor" in row or "wall" in row:
            out |= {"kind": "floor" if "floor" in row else "wall", "heated": row.get("floor") or row["wall"]}
        elif "heater_w" in row:
            out |= {"kind": "electric", "output_w": row["heater_w"]}
        else:
            out["kind"] = "stated"
        return out

    def room(self, key: str, row: dict[str, Any], pos: int) -> None:
        where = f"rooms.{key}"
        walk, height = self.walk(row)
        builds = row.get("builds", [])
        faces = {
            f"w{n + 1}": self.face(beyond, builds[n] if n < len(builds) else None, where)
            for n, beyond in enumerate(row.get("walls", []))
        }
        for n, build in enumerate(builds):
            if build:
                faces.setdefault(f"w{n + 1}", {"openings": {}})["construction"] = self.take(
                    "constructions", build, where
                )
        for name in ("floor", "ceiling"):
            faces[name] = self.face(row.get(name), row.get(f"{name}_build"), where)
        for name, text in row.get("beyond", {}).items():
            faces.setdefault(name, {"openings": {}})["spans"] = {"all": {"beyond": self.beyond(text)}}
        for name, how in row.get("build_known", {}).items():
            faces.setdefault(name, {"openings": {}})["known"] = {"construction": {"how": how}}
        for kind in ("window", "door"):
            for n, item in enumerate(row.get(f"{kind}s", [])):
                face = faces.setdefault(f"w{item['wall']}", {"openings": {}})
                face["openings"][f"{kind}{n + 1}"] = self.opening(item, kind, where) | {"pos": n}
        room: dict[str, Any] = {"label": row.get("label", key), "pos": pos, "walk": walk, "faces": faces, "air": {}}
        if height is not None:
            room["height_m"] = height
        if "at" in row:
            x, y = row["at"]
            room["position"] = {"x_m": x, "y_m": y, "rotation_deg": row.get("turned", 0.0)}
        if "level" in row:
            room["floor_level_m"] = row["level"]
        room["slopes"] = {
            f"s{n + 1}": {"run": one["run"], "knee_m": one["knee"], "angle_deg": one["angle"]}
            for n, one in enumerate(row.get("slopes", []))
        }
        room["voids"] = {
            f"v{n + 1}": {
                "face": one["face"], "x_m": one["at"][0], "y_m": one["at"][1], "width_m": one["size"][0],
                "length_m": one["size"][1],
            }
            for n, one in enumerate(row.get("voids", []))
        }  # fmt: skip
        for name in ("use", "storey", "target_c", "note"):
            if name in row:
                room[name] = row[name]
        room["part"] = row.get("part", "main")
        room["air"] = {name: row[name] for name in ("chimneys", "flues", "fans", "vents") if name in row}
        room["air"] |= row.get("air", {})
        room["known"] = {field: self.known(how) for field, how in row.get("known", {}).items()}
        room["unseen"] = row.get("unseen", {})
        self.job["survey"]["rooms"][key] = room
        for n, item in enumerate(row.get("emitters", [])):
            emitter = {"room": key, "label": item.get("label", ""), "pos": pos + n / 10, "spec": self.spec(item, where)}
            if "face" in item:
                emitter["face"] = item["face"]
            if "known" in item:
                emitter["known"] = {"spec": {"how": item["known"]}}
            if "free" in item:
                emitter["free_wall"] = {
                    "length_m": item["free"],
                    **({"height_m": item["tall"]} if "tall" in item else {}),
                }
            if "offset" in item:
                emitter["offset_m"] = item["offset"]
            self.job["survey"]["emitters"][item.get("id", f"{key}-{n + 1}")] = emitter

    def known(self, how: str) -> dict[str, Any]:
        """Evidence in a word, perhaps with its instrument: "measured", "measured:tape"."""
        word, _, via = how.partition(":")
        return {"how": word, **({"via": via} if via else {})}

    def walk(self, row: dict[str, Any]) -> tuple[list[dict[str, Any]], float | None]:
        if "walk" in row:
            return [
                {"id": f"w{n + 1}", "length_m": step[0], "turn_deg": float(step[1])}
                for n, step in enumerate(row["walk"])
            ], row.get("height")
        if "size" not in row:
            return [], row.get("height")
        width, length, height = row["size"] if len(row["size"]) == 3 else (*row["size"], None)
        return [
            {"id": f"w{n + 1}", "length_m": run, "turn_deg": 90.0}
            for n, run in enumerate((width, length, width, length))
        ], height

    def pipe(self, key: str, row: dict[str, Any], pos: int) -> dict[str, Any]:
        family, _, size = row["size"].partition(" ")
        out: dict[str, Any] = {
            "label": row.get("label", key),
            "pos": pos,
            "family": self.take("pipe_families", family, f"pipes.{key}"),
            "size": size,
            "fittings": row.get("fittings", {}),
        }
        if "length" in row:
            out["length_m"] = row["length"]
        if "way" in row:  # points on the plan: x, y, and the height where it is not the ground floor's
            out["way"] = [{"x_m": x, "y_m": y, "z_m": rest[0] if rest else 0.0} for x, y, *rest in row["way"]]
        for field, name in (("from", "parent"), ("to", "emitter"), ("reach", "reach")):
            if field in row:
                out[name] = row[field]
        return out

    def part(self, key: str, row: dict[str, Any], pos: int) -> None:
        ages = self.library.tables["standard"].ages
        wanted = dict(ages[row["age"]].constructions) if "age" in row else {}
        wanted |= row.get("constructions", {})
        taken = {k: self.take("constructions", v, f"parts.{key}") for k, v in wanted.items()}
        part: dict[str, Any] = {"label": row.get("label", key), "pos": pos, "constructions": taken}
        for name in ("age", "built", "loft", "signs", "wall_thickness_m", "edge"):
            if name in row:
                part[name] = row[name]
        part["known"] = {field: self.known(how) for field, how in row.get("known", {}).items()}
        self.job["survey"]["parts"][key] = part

    def space(self, key: str, row: dict[str, Any]) -> dict[str, Any]:
        """An unheated space as a job has it; the constructions of its own faces are taken along."""
        where = f"spaces.{key}"
        for face in row.get("faces", {}).values():
            self.take("constructions", face["construction"], where)
        for name in ("wall", "floor") if "cellar" in row else ():
            self.take("constructions", row["cellar"][name], where)
        return dict(row)

    def scheme(self, key: str, row: dict[str, Any], pos: int) -> None:
        scheme: dict[str, Any] = {"label": row.get("label", key), "pos": pos}
        for name in ("flow_c", "spread_k", "note", "allowed", "refused"):
            if name in row:
                scheme[name] = row[name]
        machines = row.get("machines", [])
        scheme["candidates"] = {m: {"machine": self.take("machines", m, key), "pos": n} for n, m in enumerate(machines)}
        for name, said in row.get(
            "beside", {}
        ).items():  # of a machine: where it stands, what works beside it, what it costs
            scheme["candidates"][name] |= said
        if "chosen" in row:
            scheme["chosen"] = row["chosen"]
        scheme["measures"] = {}
        for n, item in enumerate(row.get("measures", [])):
            if "construction" in item:
                self.take("constructions", item["construction"], key)
            scheme["measures"][f"m{n + 1}"] = item | {"pos": n}
        scheme["emitters"] = {
            item["id"]: {"action": item["action"]}
            | ({"spec": self.spec(item, key)} if item["action"] in ("replace", "add") else {})
            | {name: item[name] for name in ("room", "label", "cost_minor") if name in item}
            for item in row.get("emitters", [])
        }
        scheme["pipes"] = {
            name: {"action": item["action"]}
            | ({"run": self.pipe(name, item, item.get("pos", 99))} if item["action"] != "remove" else {})
            for name, item in row.get("pipes", {}).items()
        }
        for name in ("hot_water", "control", "separation", "targets", "concessions"):
            scheme[name] = row.get(name, {})
        self.job["schemes"][key] = scheme

    def build(self) -> dict[str, Any]:
        source, survey = self.source, self.job["survey"]
        for n, (key, row) in enumerate(source.get("parts", {}).items()):
            self.part(key, row, n)
        survey["storeys"] |= source.get("storeys", {})
        survey["spaces"] |= {key: self.space(key, row) for key, row in source.get("spaces", {}).items()}
        survey["neighbours"] |= source.get("neighbours", {})
        survey["tightness"] = source.get("tightness", {})
        survey["ventilation"] = source.get("ventilation", {})
        survey["household"] = source.get("household", {})
        survey["manifolds"] = source.get("manifolds", {})
        survey["pipe_tests"] = source.get("pipe_tests", {})
        survey["stores"] = source.get("stores", {})
        survey["sources"] = source.get("sources", {})
        survey["walk_round"] = source.get("walk_round", {})
        for name in ("site", "practice", "prices", "tariff", "grants", "handover"):
            self.job[name] = source.get(name, {})
        self.job["climate"] |= {name: source[name] for name in ("rule", "correct_height") if name in source}
        if "design_c" in source:
            self.job["climate"]["design_c"] = source["design_c"]
        for n, (key, row) in enumerate(source.get("rooms", {}).items()):
            self.room(key, row, n)
        for n, (key, row) in enumerate(source.get("pipes", {}).items()):
            survey["pipes"][key] = self.pipe(key, row, n)
        if "schemes" in source:
            self.job["schemes"] = {}
            for n, (key, row) in enumerate(source["schemes"].items()):
                self.scheme(key, row, n)
            self.job["active_scheme"] = source.get("active_scheme", next(iter(self.job["schemes"])))
        return self.job


def document(data: bytes, *, library: Library | None = None) -> dict[str, Any]:
    """A job document from a brief; raises `MalformedJson` for broken TOML, `InvalidJob` for what it says."""
    try:
        source = tomllib.loads(data.decode("utf-8"))
    except (tomllib.TOMLDecodeError, UnicodeDecodeError) as error:
        raise MalformedJson(f"Not TOML: {error}.") from None
    try:
        built = _Builder(source, library or load()).build()
    except (KeyError, IndexError, TypeError, ValueError, AttributeError) as error:
        raise InvalidJob(f"The brief lacks or mistakes something: {error!r}.") from None
    job = parse(built)
    return job.model_dump(mode="json", by_alias=True, exclude_none=True)
