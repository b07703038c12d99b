"""The library's tables: complete, credible, recomputed."""

import json

import pytest
from pydantic import ValidationError

from cinder.design.fabric.u_values import Transmittances
from cinder.design.house import copies
from cinder.library import FROZEN, ConstructionEntry, MachineEntry, entry_sha256, load, shipped_year
from cinder.model import empty_job, parse
from cinder.web.routes.library import library_answer

LIBRARY = load()
U = Transmittances(LIBRARY.constructions)

# Typical U-values, W/m2K (common practice): lowest and highest that an engineer would expect.
TYPICAL = {
    "wall-brick-one": (1.9, 2.3),
    "wall-cavity-unfilled": (1.35, 1.65),
    "wall-cavity-filled": (0.5, 0.6),
    "wall-stone-450": (2.0, 2.4),
    "roof-loft-100": (0.36, 0.44),
    "roof-loft-200": (0.18, 0.23),
    "roof-loft-300": (0.13, 0.16),
    "window-single-wood": (4.7, 5.7),
    "window-double-old": (2.6, 2.9),
    "window-double-lowe": (1.4, 1.65),
    "window-triple": (0.75, 1.0),
    "door-wood": (2.5, 3.2),
}


@pytest.mark.parametrize(("key", "band"), TYPICAL.items())
def test_typical_u_values(key, band):
    """Bands: common practice, about 10 % either way."""
    assert band[0] * 0.97 <= U.u(key) <= band[1] * 1.03


def test_there_are_enough_of_each():
    kinds = [entry.element for entry in LIBRARY.constructions.values()]
    assert len(kinds) >= 90
    for element, least in (("wall", 40), ("roof", 15), ("ground", 8), ("window", 8), ("door", 4), ("floor", 6)):
        assert kinds.count(element) >= least
    assert len({(entry.element, entry.build) for entry in LIBRARY.constructions.values()}) >= 30
    assert len(LIBRARY.machines) == 12


def test_all_but_windows_are_made_of_layers_with_conductivities_and_sources():
    for entry in LIBRARY.constructions.values():
        assert entry.source
        if entry.element == "window":
            continue
        assert entry.layers, entry.id
        for layer in entry.layers:
            if layer.material is not None:
                material = LIBRARY.materials[layer.material]
                assert layer.lambda_w_mk == material.lambda_w_mk
                assert material.source
            else:
                assert layer.air is not None, (entry.id, layer.label)


def soft(entry):
    return [layer for layer in entry.layers if layer.lambda_w_mk and layer.lambda_w_mk < 0.06]


def test_insulation_from_25_to_300_mm_on_every_part_of_the_shell():
    """Layers of less than 0.06 W/mK, single and summed, over walls, roofs and floors."""
    for element in ("wall", "roof", "ground"):
        thick = {
            round(sum(one.thickness_m for one in soft(e)) * 1000)
            for e in LIBRARY.constructions.values()
            if e.element == element
        }
        assert min(thick - {0}) <= 50
        assert max(thick) >= (300 if element == "roof" else 200)
    every = {round(one.thickness_m * 1000) for e in LIBRARY.constructions.values() for one in soft(e)}
    assert {25, 50, 100} <= every


def test_more_insulation_of_one_build_loses_less():
    lofts = [U.u(f"roof-loft-{mm}") for mm in (25, 50, 100, 150, 200, 250, 300)]
    assert lofts == sorted(lofts, reverse=True)


def test_a_zeros_sign_is_no_difference():
    """A database gives -0.0 back as 0.0: the fingerprint of a frozen copy must not mind."""
    climate = LIBRARY.climates["mild-maritime"]
    signed = climate.model_copy(update={"bin_outdoor_c": [-0.0 if t == 0 else t for t in climate.bin_outdoor_c]})
    assert 0.0 in climate.bin_outdoor_c
    assert entry_sha256(signed) == entry_sha256(climate)


def test_every_generic_climate_says_it_is_synthetic_and_carries_its_year():
    generic = [c for c in LIBRARY.climates.values() if c.year_sha256]
    assert len(generic) >= 6
    for climate in generic:
        assert climate.synthetic
        assert "synthetic" in climate.source
        year = shipped_year(climate.year_sha256)
        assert year.outdoor_c.mean() == pytest.approx(climate.annual_mean_c, abs=0.06)
        assert sum(climate.bin_hours) == 8760
        assert climate.design_c < climate.p99_c
    cold = sorted(climate.design_c for climate in generic)
    assert cold[0] <= -28
    assert cold[-1] >= -4


def test_every_age_names_constructions_there_are():
    for age in LIBRARY.tables["standard"].ages.values():
        for element, key in age.constructions.items():
            wanted = "wall" if element in ("inner_wall", "party_wall") else element
            assert LIBRARY.constructions[key].element == wanted


def test_every_caution_says_what_who_and_where():
    steps = {step for caution in LIBRARY.cautions.values() for step in caution.steps}
    assert {"machine", "hot-water", "curve", "pipework", "rooms", "waterline"} <= steps
    for caution in LIBRARY.cautions.values():
        assert all(len(text) > 8 for text in (caution.what, caution.who, caution.rule))
        assert not {"safe", "legal", "approved"} & set(f"{caution.what} {caution.who} {caution.rule}".lower().split())


def test_fingerprint_changes_with_any_figure():
    wall = LIBRARY.constructions["wall-brick-one"]
    thicker = wall.model_copy(
        update={"layers": [wall.layers[0], wall.layers[1].model_copy(update={"thickness_m": 0.221})]}
    )
    assert entry_sha256(wall) != entry_sha256(thicker)
    assert entry_sha256(wall) == entry_sha256(ConstructionEntry.model_validate(wall.model_dump()))


def test_a_machine_too_good_to_be_true_is_refused():
    good = LIBRARY.machines["sedge-9"].model_dump()
    with pytest.raises(ValidationError, match="Carnot"):
        MachineEntry.model_validate(good | {"cop": [[v * 1.6 for v in row] for row in good["cop"]]})


@pytest.mark.parametrize(
    ("change", "message"),
    [({"layers": []}, "layer"), ({"layers": [{"label": "x", "thickness_m": 0.1}]}, "conductivity"),
     ({"layers": [{"label": "x", "thickness_m": 0.0, "lambda_w_mk": 1.0}]}, "greater than 0")],
)  # fmt: skip
def test_a_broken_construction_is_refused(change, message):
    good = LIBRARY.constructions["wall-brick-one"].model_dump()
    with pytest.raises(ValidationError, match=message):
        ConstructionEntry.model_validate(good | change)


def test_jobs_keep_copies_of_the_kinds_there_are():
    """One list of kinds: the document's, the screens a changed copy leads to, what the browser is given."""
    kinds = set(FROZEN)
    job = parse(empty_job(job_id="x", title="X", library=load()))
    assert set(type(job.library).model_fields) == kinds
    assert set(copies.SCREENS) == kinds
    assert kinds <= json.loads(library_answer()).keys()
