"""Loops that are compiled: plain numbers and arrays in, arrays out. They are compiled once by numba and kept beside their file (in the
user's cache where that may not be written)."""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import TypeVar

    F = TypeVar("F", bound=Callable[..., object])

    def compiled(function: F) -> F: ...
else:
    from numba import njit

    compiled = njit(cache=True, nogil=True, error_model="numpy")
