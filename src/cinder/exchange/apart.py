"""Foreign files are read in a process of their own, with limits on time and memory; it says so when one ends it.

A file from somewhere may be made so that reading it takes all there is. Here it takes at most five seconds of a
processor and 300 MB beside what the reader is itself, and what goes wrong in it goes wrong alone.
"""

from __future__ import annotations

import contextlib
import multiprocessing
import resource
import threading
from collections.abc import Callable
from dataclasses import dataclass
from multiprocessing.connection import Connection
from typing import Any, ParamSpec, TypeVar

from cinder import errors
from cinder.errors import CinderError, Refused, TooLarge

SECONDS = 5
MEGABYTES = 300
PATIENCE_S = 20.0
"""What a busy machine may take over the five seconds of work."""
PRELOADED = [
    "cinder.exchange.survey.sheet_in", "cinder.exchange.survey.plan_dxf", "cinder.exchange.tables.machine_list",
    "cinder.exchange.tables.rule_list", "cinder.exchange.tables.tariff_csv", "cinder.exchange.readings", "cinder.exchange.files.pictures",
    "cinder.exchange.files.brought", "cinder.exchange.weather.weather_file", "cinder.exchange.jobs.job_file", "cinder.library.catalogue",
    "cinder.design", "typer", "openpyxl", "ezdxf.recover",
]  # fmt: skip
"""Readers, and what the command line imports: a process of this kind reads the command it belongs to once more."""
MB = 1024 * 1024


@dataclass(frozen=True, slots=True)
class Limits:
    """What a reader may take."""

    seconds: int = SECONDS
    megabytes: int = MEGABYTES


USUAL = Limits()
P = ParamSpec("P")
T = TypeVar("T")
_lock = threading.Lock()
_ready = False


def apart(reader: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
    """What `reader` (a function of a module) makes of its arguments, worked out in a process of its own, within the usual limits.

    Raises what the reader raises of our own errors; `TooLarge` when it took more than its time or its memory; `Refused`
    for anything else that ends it.
    """
    return apart_within(USUAL, reader, *args, **kwargs)


def apart_within(limits: Limits, reader: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
    """As `apart`, for a reader whose files may be long."""
    context = _context()
    mine, theirs = context.Pipe(duplex=False)
    process = context.Process(target=_child, args=(theirs, limits, reader, args, kwargs), daemon=True)
    process.start()
    theirs.close()
    try:
        if not mine.poll(PATIENCE_S + limits.seconds):
            raise _over_time(limits)
        try:
            kind, said = mine.recv()
        except (EOFError, OSError):
            process.join(timeout=1.0)
            raise _ended(process.exitcode, limits) from None
    finally:
        mine.close()
        if process.is_alive():
            process.join(timeout=0.2)
        if process.is_alive():
            process.kill()
        process.join(timeout=1.0)
        with contextlib.suppress(ValueError):
            process.close()
    if kind == "made":
        made: T = said
        return made
    if kind == "memory":
        raise TooLarge(
            f"Reading this file takes more than {limits.megabytes} MB: it was stopped. A smaller one is read."
        )
    if kind == "refused":
        raise _raised(*said)
    raise Refused(f"This file cannot be read: it is damaged in a way the reader does not know ({said}).")


def _context() -> multiprocessing.context.ForkServerContext:
    """Processes forked from a small server that holds the readers and no threads; started at the first file."""
    global _ready
    context = multiprocessing.get_context("forkserver")
    with _lock:
        if not _ready:
            context.set_forkserver_preload(PRELOADED)
            _ready = True
    return context


def _child(
    out: Connection, limits: Limits, reader: Callable[..., Any], args: tuple[Any, ...], kwargs: dict[str, Any]
) -> None:
    try:
        _limit(limits)
        try:
            answer: tuple[str, Any] = ("made", reader(*args, **kwargs))
        except MemoryError:
            answer = ("memory", None)
        except CinderError as error:
            problems = tuple((p.path, p.message, p.value) for p in error.problems)
            answer = ("refused", (type(error).__name__, error.message, problems, error.kept))
        except Exception as error:
            answer = ("broken", f"{type(error).__name__}: {str(error)[:100]}")
        out.send(answer)
    except MemoryError:
        out.send(("memory", None))
    finally:
        out.close()


def _limit(limits: Limits) -> None:
    with open("/proc/self/statm") as statm:
        now = int(statm.read().split()[0]) * resource.getpagesize()
    most = now + limits.megabytes * MB
    resource.setrlimit(resource.RLIMIT_AS, (most, most))
    resource.setrlimit(resource.RLIMIT_CPU, (limits.seconds, limits.seconds + 1))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))


def _over_time(limits: Limits) -> TooLarge:
    return TooLarge(f"Reading this file takes more than {limits.seconds} s: it was stopped. A smaller one is read.")


def _ended(code: int | None, limits: Limits) -> CinderError:
    if code is not None and code < 0 and -code in (9, 24):  # SIGKILL, SIGXCPU
        return _over_time(limits)
    return Refused(f"This file cannot be read: its reader ended ({code}).")


def _raised(name: str, message: str, problems: tuple[tuple[str, str, Any], ...], kept: str) -> CinderError:
    kind = getattr(errors, name, Refused)
    error: CinderError = kind.__new__(kind)
    CinderError.__init__(error, message, problems=tuple(errors.Problem(*p) for p in problems), kept=kept)
    return error
