"""The speeds we hold ourselves to, measured here and now.

    .venv/bin/python bench/run.py [chain losses survey twin correction week signatures handed edits crowd busy pages]

Machines are noisy, so each figure stands beside a yardstick taken in the same run (a fixed piece of numpy and Python
work), and beside the goal of docs/architecture.md. Starts a PostgreSQL and a server of its own on loopback; both end
with it.
"""

from __future__ import annotations

import sys
from pathlib import Path

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT))

from bench.diagnoses import correction, signatures, week  # noqa: E402
from bench.screens import pages  # noqa: E402
from bench.serving import busy, crowd, edits, handed  # noqa: E402
from bench.table import paced  # noqa: E402
from bench.working_out import chain, losses, survey, twin  # noqa: E402

from cinder import memory  # noqa: E402


def main() -> None:
    """All of the table, or the parts that are named."""
    parts = {
        part.__name__: part
        for part in (chain, losses, survey, twin, correction, week, signatures, handed, edits, crowd, busy, pages)
    }
    asked = sys.argv[1:] or list(parts)
    if wrong := [name for name in asked if name not in parts]:
        sys.exit(f"No such part: {', '.join(wrong)}. There are {', '.join(parts)}.")
    print(f"{'':52}{'measured':>24}{'/ yard':>8}   goal        (yardstick {paced():.2f} ms)")
    memory.settle()  # as the service does
    for name in asked:
        parts[name]()


if __name__ == "__main__":
    main()
