"""Where a unit may stand: in the house, in an alley, beside a drain, before a window; and what the supply carries."""

import math

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
    survey |= {
        "emitters": {},
        "pipes": {},
        "pipe_tests": {},
        "photos": {},
        "manifolds": {},
        "spaces": {},
        "neighbours": {},
    }
    survey["parts"]["main"].pop("loft", None)
    survey["parts"] = {"main": survey["parts"]["main"]}
    survey["rooms"] = {"west": room("West", 0.0, 0.0, 3.0, 6.0), "east": room("East", 5.6, 0.0, 3.0, 6.0),
                       "north": room("North", 0.0, 3.6, 8.6, 3.0)}  # fmt: skip
    scheme = document["schemes"]["lukewarm"]
    scheme |= {"emitters": {}, "pipes": {}, "measures": {}, "targets": {}, "concessions": {}}
    document |= {"schemes": {"lukewarm": scheme}, "handover": {}}
    document["site"] |= {"receivers": {}, "openings": {}, "places": {}, "marks": {}, "boundary": []}
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
    free, said = judged(with_place(document, x_m=middle, y_m=y0 - 6.0, facing_deg=180.0, meltwater="gully"))
    assert not free.alley
    assert free.walls_near == 0
    assert all(rule.met for rule in free.rules if rule.key in ("behind", "front", "side"))
    # no opening and no window stands on the site: nothing is judged, and that is said
    assert {rule.key for rule in free.rules if rule.met is None} == {"zone", "window", "boundary"}
    assert free.unmet == 0
    assert free.unseen == 3
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


def test_the_edge_of_the_plot_trees_and_paths_are_measured_from_the_units_edge():
    document = court()
    _, y0, x1, _ = box(document)
    x, y = x1 + 4.0, y0 - 3.0
    document["site"]["boundary"] = [
        {"x_m": a, "y_m": b} for a, b in ((-20, -20), (x + 2.05, -20), (x + 2.05, 20), (-20, 20))
    ]
    document["site"]["marks"] = {"t": {"kind": "tree", "label": "Pear", "x_m": x, "y_m": y - 1.25},
                                 "p": {"kind": "patio", "label": "Flags", "x_m": x + 3.0, "y_m": y - 4.0}}  # fmt: skip
    place, said = judged(with_place(document, x_m=x, y_m=y, height_m=0.6, meltwater="onto the ground"))
    rules = {rule.key: rule for rule in place.rules}
    # half a unit is 0.55 m wide: 2.05 - 0.55, 1.25 - 0.55 and the 3-4-5 triangle less 0.55
    assert rules["boundary"].measure_m == pytest.approx(1.5)
    assert rules["tree"].measure_m == pytest.approx(0.7)
    assert (rules["tree"].met, rules["tree"].what) == (False, "Pear")
    assert rules["patio"].measure_m == pytest.approx(4.45)
    assert rules["underside"].measure_m == pytest.approx(0.2)
    assert not any("ice underfoot" in what for what in said)
    document["site"]["marks"]["p"] |= {"x_m": x + 2.0, "y_m": y - 1.5}  # 2.5 m off
    assert any("Flags: ice underfoot" in what for what in judged(document)[1])
    document["site"]["marks"] = {}
    document["site"]["boundary"] = []
    place, _ = judged(document)
    rules = {rule.key: rule.met for rule in place.rules}
    assert rules["boundary"] is None  # nobody has drawn it
    assert "tree" not in rules


def test_a_way_over_the_site_is_its_legs_and_its_rise_and_feeds_the_pipes():
    document = tansy_cut()
    scheme = document["schemes"][document["active_scheme"]]
    chosen = scheme["candidates"][scheme["chosen"]]
    document["site"]["marks"] = {}
    before = design(parse(document))
    document["site"]["places"] = {"here": {"x_m": 12.0, "y_m": -3.0, "height_m": 0.6,
                                           "route": [{"x_m": 12.0, "y_m": 1.0}, {"x_m": 9.0, "y_m": 5.0}]}}  # fmt: skip
    for one in (one for s in document["schemes"].values() for one in s["candidates"].values()):
        one.pop("place", None)
    chosen["place"] = "here"
    lacking = design(parse(document)).places.places[0]
    assert (lacking.run.length_m, lacking.cost_minor) == (None, None)
    document["site"]["marks"] = {"s": {"kind": "store", "x_m": 9.0, "y_m": 8.0, "height_m": 1.6}}
    result = design(parse(document))
    place = result.places.places[0]
    # 4 + 5 + 3 m over the plan, 1 m up
    assert place.run.length_m == pytest.approx(13.0)
    assert place.cost_minor == pytest.approx(13.0 * parse(document).practice.primary_minor_per_m)
    root = next(pipe for pipe in result.pipework.pipes if pipe.parent is None)
    assert root.length_m == pytest.approx(13.0)
    assert root.friction_kpa / 13.0 == pytest.approx(
        next(p for p in before.pipework.pipes if p.parent is None).friction_kpa
        / next(p for p in before.pipework.pipes if p.parent is None).length_m,
        rel=0.02,
    )
    # over a loft: up 4.4 m to the first bend and down 3.4 m to the store's 1.6 m, instead of 1 m
    document["site"]["places"]["here"]["route"][0]["height_m"] = 5.0
    assert design(parse(document)).places.places[0].run.length_m == pytest.approx(12.0 + 4.4 + 3.4)
    document["site"]["places"]["here"]["run_m"] = 7.5  # measured: it wins over what is drawn
    assert next(p for p in design(parse(document)).pipework.pipes if p.parent is None).length_m == 7.5


def test_two_equal_units_are_3_db_louder_and_must_be_told_apart():
    """Two equal sources together are 3.01 dB above one (addition of intensities)."""
    document = court()
    _, y0, x1, _ = box(document)
    document["site"]["receivers"] = {"w": {"label": "Window", "x_m": x1 + 9.0, "y_m": y0, "height_m": 0.6}}
    alone, _ = judged(with_place(document, x_m=x1 + 3.0, y_m=y0))
    assert alone.heard[0].others_db is None
    assert not alone.contours
    power = document["library"]["machines"]["sedge-9"]["data"]["sound_power_day_db"]
    document["site"]["marks"] = {"u": {"kind": "unit", "x_m": x1 + 15.0, "y_m": y0, "height_m": 0.6, "power_db": power}}
    both, _ = judged(document)
    assert alone.walls_near == 0
    assert both.heard[0].level_db - alone.heard[0].level_db == pytest.approx(3.0103, abs=1e-3)
    # the lines of level are where the sum has that level: checked at a point of the 40 dB line
    line = next(c for c in both.contours if c.level_db == 40.0).lines[0]
    x, y = line[len(line) // 2]
    flat = [((x - sx) ** 2 + (y - y0) ** 2 + 0.9**2) for sx in (x1 + 3.0, x1 + 15.0)]
    level = 10 * math.log10(sum(10 ** (power / 10) * 2 / (4 * math.pi * r2) for r2 in flat))
    assert level == pytest.approx(40.0, abs=0.5)
    document["site"]["marks"]["u"]["power_db"] = 90.0
    drowned, _ = judged(document)
    assert drowned.heard[0].further_m is None
    assert drowned.heard[0].passes.startswith("nothing at this unit")


def test_the_lines_of_a_split_machine_by_the_makers_table():
    document = court()
    machine = document["library"]["machines"]["sedge-9"]["data"]
    machine |= {"kind": "split", "refrigerant_kg": 1.5, "lines": {
        "gas_mm": 15.9, "liquid_mm": 9.5, "most_length_m": 30.0, "most_lift_m": 10.0, "charged_length_m": 10.0,
        "extra_g_per_m": 20.0}}  # fmt: skip
    document["site"]["marks"] = {"s": {"kind": "store", "x_m": 0.0, "y_m": 0.0, "height_m": 0.6}}
    place, _ = judged(with_place(document, x_m=-9.0, y_m=0.0, run_m=18.0))
    # 8 m beyond the 10 m it is charged for, 20 g each
    assert place.lines.extra_g == pytest.approx(160.0)
    assert place.lines.charge_kg == pytest.approx(1.66)
    assert place.lines.met
    place, said = judged(with_place(document, x_m=-9.0, y_m=0.0, run_m=18.0, height_m=12.0))
    assert place.lines.lift_m == pytest.approx(11.4)
    assert place.lines.met is False
    assert any("refrigerant lines would be 18.0 m with a lift of 11.4 m" in what for what in said)


def test_a_neighbours_window_in_the_house_is_asked_about():
    document = court()
    x0, y0, _, _ = box(document)
    document["site"]["receivers"] = {"w": {"label": "Window", "x_m": x0 + 1.0, "y_m": y0 + 1.0}}
    _, said = judged(with_place(document, x_m=-9.0, y_m=-9.0))
    assert "Window lies inside the house." in said


def test_a_companys_rule_stands_beside_or_in_place_of_a_general_one():
    document = court()
    _, y0, x1, _ = box(document)

    def frozen(**rule) -> dict:
        return {"origin": "company", "edition": "1", "sha256": "0" * 64, "data": {"why": "so", "source": "us"} | rule}

    document["library"]["place_rules"] = {
        "front": frozen(id="front", label="Free in front", of="front", least_m=3.0),
        "far-window": frozen(id="far-window", label="From any window", of="window", least_m=9.0),
    }
    document["site"]["receivers"] = {"w": {"label": "Window", "x_m": x1 + 10.0, "y_m": y0, "height_m": 0.6}}
    place, _ = judged(with_place(document, x_m=x1 + 3.0, y_m=y0))
    rules = {rule.key: rule for rule in place.rules}
    assert rules["front"].least_m == 3.0
    assert (rules["far-window"].measure_m, rules["far-window"].met) == (pytest.approx(7.0), False)
    assert rules["window"].met
