"""What draws papers: alone, beside each other, and gone with whoever asked."""

import gc
import io
import os
import signal
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from concurrent.futures.process import BrokenProcessPool
from pathlib import Path

import pypdf
import pytest

from cinder import memory
from cinder.errors import Refused
from cinder.exchange import papers

ALONE = """
import sys
from cinder.exchange import papers
assert papers.pdf("<p>A page</p>")[:5] == b"%PDF-"
print(sorted(name for name in sys.modules if name.startswith(("cinder.design", "cinder.store", "scipy", "numba"))))
"""
LEFT = """
import os, signal
from pathlib import Path
from cinder.exchange import papers
def children(process):
    return Path(f"/proc/{process}/task/{process}/children").read_text().split()
def pages():
    yield "<p>One</p>"
    [server] = [one for one in children(os.getpid()) if "forkserver" in Path(f"/proc/{one}/cmdline").read_text()]
    print(server, *children(server), flush=True)
    os.kill(os.getpid(), signal.SIGKILL)
if __name__ == "__main__":
    list(papers.pdfs(pages()))
"""
DONE = """
from cinder.exchange import papers
if __name__ == "__main__":
    papers.pdf(papers.WARM)
    assert len(list(papers.pdfs([papers.WARM] * 3))) == 3
"""


def test_drawing_loads_neither_the_core_nor_what_computes():
    """A process that draws is begun for every pack: the whole core took longer to load than its papers to draw."""
    done = subprocess.run([sys.executable, "-c", ALONE], capture_output=True, text=True, check=True)
    assert done.stdout.strip() == "[]"


def test_the_command_line_loads_neither():
    """Every process a worker begins reads the command line first."""
    code = "import sys, cinder.cli; print([name for name in sys.modules if name.startswith(('cinder.design', 'cinder.model', 'scipy'))])"
    assert (
        subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True).stdout.strip() == "[]"
    )


def drawing() -> set[str]:
    """Processes begun here that draw."""
    [server] = [one for one in children(os.getpid()) if b"forkserver" in Path(f"/proc/{one}/cmdline").read_bytes()]
    return set(children(server))


def children(process: int | str) -> list[str]:
    return Path(f"/proc/{process}/task/{process}/children").read_text().split()


def until(there: Callable[[], bool]) -> None:
    for _ in range(200):  # a wait, not a speed
        if there():
            return
        time.sleep(0.1)
    pytest.fail("it did not come to that")


def test_the_next_who_draw_stand_ready_and_those_who_drew_are_gone():
    list(papers.pdfs([papers.WARM] * 2))
    until(lambda: len(drawing()) == papers.AT_ONCE)
    ready = drawing()
    list(papers.pdfs([papers.WARM] * 2))
    until(lambda: len(drawing()) == papers.AT_ONCE and not ready & drawing())


def test_where_those_who_stood_ready_were_killed_the_next_try_has_others():
    list(papers.pdfs([papers.WARM]))
    until(lambda: len(drawing()) == papers.AT_ONCE)
    for one in drawing():
        os.kill(int(one), signal.SIGKILL)
    with pytest.raises(BrokenProcessPool):  # a worker tries again
        list(papers.pdfs([papers.WARM] * 2))
    assert len(dict(papers.pdfs([papers.WARM] * 2))) == 2


def test_papers_come_with_their_place():
    texts = [f"<p>Page {n}</p>" * (1 + 40 * (n == 0)) for n in range(4)]  # the first takes longest
    drawn = dict(papers.pdfs(texts))
    assert sorted(drawn) == [0, 1, 2, 3]
    read = [pypdf.PdfReader(io.BytesIO(drawn[n])).pages[0].extract_text() for n in range(4)]
    assert [text.split("\n")[0] for text in read] == [f"Page {n}" for n in range(4)]
    with pytest.raises(Refused, match="may not fetch"):
        list(papers.pdfs(["<p>Fine</p>", "<img src='https://example.org/x.png'>"]))


@pytest.fixture
def passing() -> Iterator[Path]:
    """A folder of their own for passing files; with a short name, since a socket lies in it."""
    with tempfile.TemporaryDirectory(prefix="cinder-", ignore_cleanup_errors=True) as folder:
        yield Path(folder)


def test_what_draws_ends_with_whoever_asked(tmp_path, passing):
    script = tmp_path / "left.py"
    script.write_text(LEFT)
    done = subprocess.run([sys.executable, script], capture_output=True, text=True, check=False, env=in_folder(passing))
    assert done.returncode == -9
    children = [int(one) for one in done.stdout.split()]
    assert len(children) >= 2
    for _ in range(200):  # a wait, not a speed
        if not any(os.path.exists(f"/proc/{one}") for one in children):
            break
        time.sleep(0.1)
    else:
        pytest.fail(f"left behind: {children}")
    assert laid(passing) == []


def test_fonts_laid_out_for_drawing_are_cleared_away(tmp_path, passing):
    """Every process that draws lays the packaged fonts into a folder: a service that runs for a year would fill the disk."""
    script = tmp_path / "done.py"
    script.write_text(DONE)
    subprocess.run([sys.executable, script], check=True, env=in_folder(passing))
    until(lambda: laid(passing) == [])


def in_folder(passing: Path) -> dict[str, str]:
    return os.environ | {"TMPDIR": str(passing)}


def laid(passing: Path) -> list[str]:
    """What drawing has laid there; the listener's own folder of a killed process apart."""
    return sorted(name for name in os.listdir(passing) if not name.startswith("pymp-"))


def loads_and_fails():
    with memory.loading():
        assert not gc.isenabled()
        raise ZeroDivisionError


def test_garbage_is_looked_for_again_after_loading():
    with pytest.raises(ZeroDivisionError):
        loads_and_fails()
    assert gc.isenabled()
