"""Pipes, the index circuit, and open water, on small trees whose answers can be reckoned by hand."""

import copy

import pytest

from cinder.library import load
from cinder.model import freeze
from tests.conftest import house, judged


@pytest.fixture
def document():
    return house("three-rooms")


def pipes_of(result):
    return {pipe.id: pipe for pipe in result.pipework.pipes}


def test_every_branch_carries_what_its_emitters_ask(document):
    result = judged(document)
    pipes, flows = pipes_of(result), {e.id: e.flow_lph for room in result.rooms for e in room.emitters}
    for end in ("living", "bed", "bath"):
        assert pipes[f"to-{end}"].flow_lph == pytest.approx(flows[f"r-{end}"])
    assert pipes["main"].flow_lph == pytest.approx(sum(flows.values()))


def test_two_emitters_in_a_room_share_its_load_by_output(document):
    document["survey"]["emitters"]["r-more"] = copy.deepcopy(document["survey"]["emitters"]["r-bed"])
    room = next(room for room in judged(document).rooms if room.id == "bed")
    assert [e.share for e in room.emitters] == pytest.approx([0.5, 0.5])
    alone = next(room for room in judged(house("three-rooms")).rooms if room.id == "bed")
    assert sum(e.flow_lph for e in room.emitters) == pytest.approx(alone.emitters[0].flow_lph)


def test_the_index_is_not_always_the_biggest_room(document):
    """A small bathroom on 25 m of 10 mm plastic outdoes the living room."""
    pipe = document["survey"]["pipes"]["to-bath"]
    pipe |= {"size": "10", "length_m": 25.0}
    result = judged(document)
    biggest = max(result.rooms, key=lambda room: room.room_emitter_load_w)
    assert (biggest.id, result.pipework.index) == ("living", "r-bath")
    assert [pipe.id for pipe in result.pipework.pipes if pipe.on_index] == ["main", "to-bath"]
    assert pipes_of(result)["to-bath"].fast
    assert any("pump has" in finding.what for finding in result.findings)


def test_a_circuit_is_the_sum_of_its_pieces(document):
    result = judged(document)
    pipes = pipes_of(result)
    for circuit in result.pipework.circuits:
        assert circuit.loss_kpa == pytest.approx(sum(pipes[key].total_kpa for key in circuit.path))
        assert circuit.to_drop_kpa == pytest.approx(result.pipework.index_kpa - circuit.loss_kpa)
    assert min(circuit.to_drop_kpa for circuit in result.pipework.circuits) == 0


def test_the_next_size_up_saves_what_it_says(document):
    """Doing what the hint says takes off what it promised."""
    before = judged(document).pipework
    worst = document["survey"]["pipes"][before.worst_pipe]
    sizes = load().pipe_families[worst["family"]].sizes
    worst["size"] = next(key for key, size in sizes.items() if before.worst_next_size.endswith(size.label))
    after = pipes_of(judged(document))[before.worst_pipe]
    was = next(pipe for pipe in before.pipes if pipe.id == before.worst_pipe)
    assert was.friction_kpa - after.friction_kpa == pytest.approx(before.worst_saving_kpa, rel=1e-9)


def test_a_scheme_renews_a_pipe_and_the_survey_keeps_the_old(document):
    run = copy.deepcopy(document["survey"]["pipes"]["to-bed"]) | {"size": "22"}
    document["schemes"]["main"]["pipes"] = {"to-bed": {"action": "replace", "run": run}}
    assert "22" in pipes_of(judged(document))["to-bed"].size_label
    found = document | {"active_scheme": None}
    assert "15" in pipes_of(judged(found))["to-bed"].size_label
    document["schemes"]["main"]["pipes"] = {"to-bed": {"action": "remove"}}
    assert "to-bed" not in pipes_of(judged(document))


def test_a_parent_taken_out_in_the_scheme_is_refused_or_rerooted(document):
    """A scheme that removes the main leaves runs without a parent: the document says so instead of guessing."""
    from cinder.errors import InvalidJob

    document["schemes"]["main"]["pipes"] = {"main": {"action": "remove"}}
    with pytest.raises(InvalidJob) as refused:
        judged(document)
    assert "no pipe 'main'" in refused.value.problems[0].message


def test_least_flow_of_the_machine(document):
    document["practice"]["spread_k"] = 20.0
    assert any("less than the" in finding.what and "L/h" in finding.what for finding in judged(document).findings)


def test_no_machine_no_pump(document):
    del document["schemes"]["main"]["chosen"]
    work = judged(document).pipework
    assert work.index_kpa > 0
    assert work.head_kpa is None
    assert work.head_used is None


def test_open_water_by_hand(document):
    """Everything but the thermostatic bathroom: pipes twice their length, radiators by face, machine content."""
    result = judged(document)
    litres = result.volume
    main, living, bed = (
        1000 * 3.14159265 / 4 * bore**2 * 2 * length for bore, length in ((0.0262, 4), (0.0202, 6), (0.0136, 8))
    )
    assert litres.pipes_l == pytest.approx(main + living + bed)
    # T33 2.4 m and T22 2.0 m at 600 mm: 9.5 and 6.3 L/m
    assert litres.emitters_l == pytest.approx(9.5 * 2.4 + 6.3 * 2.0)
    assert litres.closed_l == pytest.approx(6.0 + 1000 * 3.14159265 / 4 * 0.0117**2 * 14)
    machine = load().machines["sedge-9"]
    assert litres.machine_l == machine.content_l
    assert litres.open_l == pytest.approx(litres.pipes_l + litres.emitters_l + machine.content_l)
    assert litres.need_l == machine.least_volume_l


def test_thermostats_everywhere_close_the_water_and_a_volumiser_opens_it(document):
    for emitter in document["survey"]["emitters"].values():
        emitter["spec"]["valve"] = "thermostatic"
    closed = judged(document)
    assert closed.volume.open_l == pytest.approx(load().machines["sedge-9"].content_l)
    finding = next(f for f in closed.findings if "open water" in f.what)
    assert "volumiser" in finding.mend
    document["schemes"]["main"]["separation"] = {"volumiser_l": 80.0}
    opened = judged(document)
    assert opened.volume.open_l == pytest.approx(closed.volume.open_l + 80)
    assert not any("open water" in f.what for f in opened.findings)


def test_pipe_families_have_rising_bores_and_honest_roughness():
    """Copper 1.5 um, plastics 7 um, old steel 45-200 um (common practice)."""
    roughness = {key: family.roughness_m for key, family in load().pipe_families.items()}
    assert roughness["copper"] == pytest.approx(1.5e-6)
    assert roughness["plastic"] == roughness["multilayer"] == pytest.approx(7e-6)
    assert 45e-6 <= roughness["steel"] <= 200e-6
    copper = load().pipe_families["copper"].sizes
    for key, bore in (("15", 13.6), ("22", 20.2), ("28", 26.2), ("35", 32.6)):
        assert copper[key].bore_m * 1000 == pytest.approx(bore)


def test_frozen_sizes_win_over_the_shelf(document):
    """A job keeps the bores it was made with, whatever a later edition says."""
    frozen = document["library"]["pipe_families"]["copper"]
    assert frozen == freeze(load().pipe_families["copper"])
    frozen["origin"] = "job"
    frozen["data"]["sizes"]["15"]["bore_m"] = 0.012
    assert pipes_of(judged(document))["to-bed"].bore_m == 0.012
