"""What hangs and lies in the rooms, and what each gives."""

from cinder.design.emitters.decide import EmitterArrays, Rated, arrays

__all__ = ["EmitterArrays", "Rated", "arrays"]  # fmt: skip
