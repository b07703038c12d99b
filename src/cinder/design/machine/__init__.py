"""The machine against the house: output, cover, cycling, backup, season."""

from cinder.design.machine.decide import judge, looks_at, nothing, season_of
from cinder.design.machine.load import performance, performance_map, standing_of
from cinder.design.machine.season import no_season

__all__ = ["judge", "looks_at", "no_season", "nothing", "performance", "performance_map", "season_of", "standing_of"]  # fmt: skip
