"""Who there is until accounts arrive: one company with one engineer."""

from __future__ import annotations

from cinder.store.record import Who

DEMO = Who("demo-company", "demo-engineer")
DEMO_COMPANY = "Reedmace Heating (sample)"
DEMO_PERSON = "Sample engineer"
