"""./start: one service per data; whoever comes second is told where the first runs. Several processes serve one port."""

import fcntl
import os
import subprocess
import uuid
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import httpx
import pytest

from tests.conftest import ROOT, Server, free_port, house

ROOMS = list(house("three-rooms")["survey"]["rooms"])


@pytest.fixture
def claimed(tmp_path):
    """A data folder somebody else serves: the lock is held, and says where."""
    lock = tmp_path / "pg.lock"
    with lock.open("w") as file:
        fcntl.flock(file, fcntl.LOCK_EX)
        file.write("http://127.0.0.1:8123, process 4242")
        file.flush()
        yield tmp_path


def test_a_second_start_says_where_the_first_runs_and_touches_nothing(claimed):
    for folder in claimed.parents:
        if folder.stat().st_uid == os.geteuid() and not folder.stat().st_mode & 0o001:
            folder.chmod(folder.stat().st_mode | 0o001)  # the database's user must be able to pass
    claimed.chmod(0o755)
    said = subprocess.run(
        [str(ROOT / "start"), "--data", str(claimed), "--port", str(free_port())], capture_output=True, text=True, timeout=120
    )  # fmt: skip
    assert said.returncode == 1
    assert "it runs on these data already: http://127.0.0.1:8123, process 4242" in said.stderr
    assert "--data" in said.stderr
    assert [file.name for file in claimed.iterdir()] == ["pg.lock"]
    assert (claimed / "pg.lock").read_text() == "http://127.0.0.1:8123, process 4242"


def children(process: int) -> list[int]:
    """Processes of its own that serve."""
    found = []
    for entry in Path("/proc").iterdir():
        if entry.name.isdigit():
            try:
                stat = (entry / "stat").read_text().rsplit(")", 1)[1].split()
                command = (entry / "cmdline").read_bytes()
            except OSError:
                continue
            if int(stat[1]) == process and b"spawn_main" in command:
                found.append(int(entry.name))
    return found


def test_two_processes_serve_one_port_and_one_job(database):
    served = Server(database, free_port(), "--processes", "2")
    try:
        job = f"two-{uuid.uuid4().hex[:8]}"
        document = house("three-rooms") | {"id": job}
        assert httpx.post(f"{served.url}/api/jobs/import", json=document).status_code == 201

        def edit(n: int) -> int:
            """Everybody edits a field of their own, each over a line of their own."""
            operation = {"op": "replace", "path": f"/survey/rooms/{ROOMS[n]}/height_m", "value": 2.4}
            body = {"id": uuid.uuid4().hex, "base_version": 1, "operations": [operation]}
            return httpx.post(f"{served.url}/api/jobs/{job}/changes", json=body, timeout=60).status_code

        with ThreadPoolExecutor(6) as pool:
            assert set(pool.map(edit, range(3))) == {200}
        assert httpx.get(f"{served.url}/api/jobs/{job}").json()["version"] == 4
        assert len(children(served.process.pid)) == 2
    finally:
        served.stop()
