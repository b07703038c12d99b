"""Where a unit may stand: in the house, in an alley, beside a drain, before a window; and what the supply carries."""

import pytest

from cinder.design import design
from cinder.errors import InvalidJob
from cinder.model import parse
from tests.conftest import tansy_cut


def court() -> dict:
    """Three rooms about a court 2 m wide, open to the south (y down), and one that shuts it."""
    document = tansy_cut()
    plain = document["survey"]["rooms"]["kitchen"]
    storey = plain["storey"]

    def room(name: str, x: float, y: float, wide: float, deep: float) -> dict:
        return {
            "label": name, "storey": storey, "part": "main", "height_m": 2.5, "pos": 1.0, "position": {"x_m": x, "y_m": y},
            "walk": [{"id": f"w{n}", "length_m": side} for n, side in enumerate((wide, deep, wide, deep))],
        }  # fmt: skip

    survey = document["survey"]
    survey |= {"emitters": {}, "pipes": {}, "photos": {}, "manifolds": {}, "spaces": {}, "neighbours": {}}
    survey["parts"]["main"].pop("loft", None)
    survey["parts"] = {"main": survey["parts"]["main"]}
    survey["rooms"] = {"west": room("West", 0.0, 0.0, 3.0, 6.0), "east": room("East", 5.6, 0.0, 3.0, 6.0),
                       "north": room("North", 0.0, 3.6, 8.6, 3.0)}  # fmt: skip
    scheme = document["schemes"]["lukewarm"]
    scheme |= {"emitters": {}, "pipes": {}, "measures": {}, "targets": {}, "concessions": {}}
    document["schemes"] = {"lukewarm": scheme}
    document["site"] |= {"receivers": {}, "openings": {}, "places": {}}
    scheme["candidates"]["sedge-9"].pop("place", None)
    return document


def with_place(document: dict, **place) -> dict:
    document["site"]["places"] = {"here": {"label": "Here", "x_m": 0.0, "y_m": 0.0} | place}
    document["schemes"]["lukewarm"]["candidates"]["sedge-9"]["place"] = "here"
    return document


def judged(document: dict):
    result = design(parse(document))
    return result.places.places[0], [f.what for f in result.findings if f.where.startswith("/site")]


def box(document: dict) -> tuple[float, float, float, float]:
    points = [p for ring in design(parse(document)).places.outline for p in ring]
    return min(x for x, _ in points), min(y for _, y in points), max(x for x, _ in points), max(y for _, y in points)


def test_a_unit_inside_the_house_is_said_and_kept():
    document = court()
    x0, y0, _, _ = box(document)
    place, said = judged(with_place(document, x_m=x0 + 1.0, y_m=y0 + 1.0))
    assert place.inside
    assert "Here lies inside the house." in said
    roof, _ = judged(with_place(document, x_m=x0 + 1.0, y_m=y0 + 1.0, on="roof", height_m=3.4))
    assert not roof.inside
    assert "nobody has priced how it is reached" in roof.access


def test_out_of_an_alley():
    """Between two walls with a third before it the cold air comes back; turned about it goes out."""
    document = court()
    x0, y0, x1, y1 = box(document)
    middle = (x0 + x1) / 2
    inside, said = judged(with_place(document, x_m=middle, y_m=y1 - 4.5, facing_deg=0.0))
    other, _ = judged(with_place(document, x_m=middle, y_m=y1 - 4.5, facing_deg=180.0))
    alley = inside if inside.alley else other
    assert inside.alley != other.alley, "one way it blows into the court's end, the other way out of it"
    assert alley.walls_near == 2
    free, said = judged(with_place(document, x_m=middle, y_m=y0 - 6.0, facing_deg=180.0))
    assert not free.alley
    assert free.walls_near == 0
    assert all(rule.met for rule in free.rules if rule.key in ("behind", "front", "side"))
    # no opening and no window stands on the site: nothing is judged, and that is said
    assert {rule.key for rule in free.rules if rule.met is None} == {"zone", "window"}
    assert free.unmet == 0
    assert free.unseen == 2
    assert len(said) == 1
    assert "nobody has said what lies about it" in said[0]


def test_the_manual_wins():
    document = court()
    _, y0, x1, _ = box(document)
    document["site"]["openings"] = {"gully": {"label": "Gully", "x_m": x1 + 2.0, "y_m": y0}}
    near = with_place(document, x_m=x1 + 2.0, y_m=y0 + 1.2, facing_deg=90.0)
    place, said = judged(near)
    zone = next(rule for rule in place.rules if rule.key == "zone")
    assert zone.measure_m == pytest.approx(1.2 - 0.55)
    assert not zone.met
    assert not zone.by_manual
    assert any("Gully" in what for what in said)
    near["site"]["place_rules"] = {"zone": 0.5}
    place, said = judged(near)
    zone = next(rule for rule in place.rules if rule.key == "zone")
    assert (zone.met, zone.by_manual, zone.least_m) == (True, True, 0.5)


def test_gas_sinks_to_what_lies_below_and_not_up():
    document = court()
    _, y0, x1, _ = box(document)

    def zone(height: float) -> float:
        document["site"]["openings"] = {
            "o": {"label": "Roof light", "x_m": x1 + 2.0, "y_m": y0 - 3.0, "height_m": height}
        }
        place, _ = judged(with_place(document, x_m=x1 + 2.0, y_m=y0 - 3.0, height_m=0.6))
        return next(rule for rule in place.rules if rule.key == "zone").measure_m

    assert zone(0.0) == 0.0
    assert zone(3.6) == pytest.approx(3.0)


def test_a_window_near_by_and_what_would_pass():
    document = court()
    _, y0, x1, _ = box(document)
    document["site"]["receivers"] = {"w": {"label": "Window", "x_m": x1 + 5.0, "y_m": y0, "height_m": 0.6}}
    near, said = judged(with_place(document, x_m=x1 + 2.0, y_m=y0))
    heard = near.heard[0]
    assert heard.distance_m == pytest.approx(3.0)
    assert not heard.met
    assert heard.further_m > 0
    assert any("would hear" in what for what in said)
    moved, _ = judged(with_place(document, x_m=x1 + 5.0 + 3.0 + heard.further_m + 0.01, y_m=y0))
    assert moved.heard[0].met
    document["site"]["receivers"]["w"]["screened"] = "hidden"
    hidden, _ = judged(with_place(document, x_m=x1 + 2.0, y_m=y0))
    assert hidden.heard[0].level_db == pytest.approx(heard.level_db - 10.0)
    document["practice"] = document.get("practice", {}) | {"noise": "alone"}
    alone, _ = judged(with_place(document, x_m=x1 + 2.0, y_m=y0))
    assert alone.heard[0].limit_db == 37.0


def test_the_supply_is_a_sum():
    document = with_place(court(), x_m=-9.0, y_m=-9.0)
    document["site"]["supply"] = {"fuse_a": 40.0, "present_a": 30.0}
    entry = document["library"]["machines"]["sedge-9"]["data"]
    electrics = design(parse(document)).places.electrics
    assert electrics.sum_a == pytest.approx(30.0 + entry["max_current_a"])
    assert electrics.left_a == pytest.approx(10.0 - entry["max_current_a"])
    entry["contains"] = entry.get("contains", {}) | {"heater_kw": 4.6}
    assert design(parse(document)).places.electrics.sum_a == pytest.approx(30.0 + entry["max_current_a"] + 20.0)
    document["site"]["supply"]["interlocked"] = True
    assert design(parse(document)).places.electrics.sum_a == pytest.approx(30.0 + entry["max_current_a"])
    document["site"]["supply"].pop("fuse_a")
    assert design(parse(document)).places.electrics.left_a is None


def test_a_candidate_stands_at_a_place_that_is_there():
    document = court()
    document["schemes"]["lukewarm"]["candidates"]["sedge-9"]["place"] = "nowhere"
    with pytest.raises(InvalidJob, match="job") as refused:
        parse(document)
    assert any("place for a unit" in p.message for p in refused.value.problems)
