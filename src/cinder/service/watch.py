"""Keeps a command running: started again when it dies, ended with this process.

python -m cinder.service.watch COMMAND ARGUMENT...

Imports nothing of the application, so that watching costs next to no memory.
"""

from __future__ import annotations

import ctypes
import signal
import subprocess
import sys
import time
from types import FrameType

FIRST_WAIT_S, LONGEST_WAIT_S = 1.0, 30.0
LIVED_S = 60.0
"""After so long a life the next death is the first again."""
END_S = 15.0
PR_SET_PDEATHSIG = 1


def _end_with_parent() -> None:
    ctypes.CDLL(None).prctl(PR_SET_PDEATHSIG, signal.SIGTERM)


def watch(command: list[str]) -> int:
    """Run until stopped by a signal; a child that ends by itself without complaint ends the watch too."""
    stopping = False
    child: subprocess.Popen[bytes] | None = None

    def stop(number: int, frame: FrameType | None) -> None:
        nonlocal stopping
        stopping = True
        if child is not None:
            child.terminate()

    signal.signal(signal.SIGTERM, stop)
    signal.signal(signal.SIGINT, stop)
    wait = FIRST_WAIT_S
    while not stopping:
        began = time.monotonic()
        child = subprocess.Popen(command, preexec_fn=_end_with_parent)
        code = child.wait()
        if stopping or code == 0:
            break
        if time.monotonic() - began > LIVED_S:
            wait = FIRST_WAIT_S
        print(f"{command[0]} ended ({code}); started again in {wait:g} s.", file=sys.stderr, flush=True)
        until = time.monotonic() + wait
        while not stopping and time.monotonic() < until:
            time.sleep(0.1)
        wait = min(wait * 2, LONGEST_WAIT_S)
    if child is not None:
        try:
            child.wait(timeout=END_S)
        except subprocess.TimeoutExpired:
            child.kill()
    return 0


if __name__ == "__main__":
    sys.exit(watch(sys.argv[1:]))
