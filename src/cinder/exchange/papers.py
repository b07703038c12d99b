"""Pages into PDF: only what is packaged with the application is ever fetched while one is drawn."""

from __future__ import annotations

import atexit
import os
import shutil
import tempfile
import threading
from collections.abc import Iterable, Iterator
from concurrent.futures import Future, ProcessPoolExecutor, as_completed
from functools import lru_cache
from multiprocessing import get_context, parent_process
from multiprocessing.process import BaseProcess
from multiprocessing.util import Finalize
from typing import Any

from cinder import memory
from cinder.errors import Refused
from cinder.exchange.packaged import OWN_PICTURE, Picture, house_style

WARM = """<h1>Warm</h1><p class="lead">One <b>two</b></p><h2>Three</h2><table><thead><tr><th class="l">a</th><th>b</th></tr></thead>
<tbody><tr><td class="l">c <b>d</b><br><span class="note">e</span></td><td>1.0</td></tr></tbody></table><p class="note">f</p>"""
"""What most papers are made of, so that nothing of it is looked up for the first time in one somebody waits for."""


@lru_cache(maxsize=4)
def _laid_under(thread: int) -> dict[str, Any]:
    """The style of every paper, read once in a thread that draws: reading it takes a third of a short paper."""
    from weasyprint import CSS
    from weasyprint.text.fonts import FontConfiguration

    from cinder.exchange.sheet import PackagedOnly

    atexit.register(_laid_under.cache_clear)  # before the library it is made of is gone
    fonts = FontConfiguration()
    return {
        "stylesheets": [CSS(string=house_style(), url_fetcher=PackagedOnly(None), font_config=fonts)],
        "font_config": fonts,
    }


def pdf(page: str, picture: Picture | None = None, *, styled: bool = False) -> bytes:
    """The page as PDF; `picture` gives the JPEG of a fingerprint, for `picture:<sha256>`. `styled`: it brings all its style itself, else
    the style of every paper lies under it. Raises `Refused` where it would fetch anything that is neither packaged nor the job's own."""
    from weasyprint.urls import FatalURLFetchingError

    from cinder.exchange.sheet import PackagedOnly, Sheet

    under = {} if styled else _laid_under(threading.get_ident())
    try:
        return bytes(Sheet(string=page, url_fetcher=PackagedOnly(picture)).write_pdf(**under))
    except FatalURLFetchingError as error:  # no Exception of the ordinary kind: nobody else would catch it
        raise Refused(f"A paper may not fetch anything: {error.__cause__ or error}") from None


COLLECT_EVERY = 200_000
"""New objects between two looks for garbage in a process that draws."""
AT_ONCE = 2


class _Drawers:
    """Processes that draw. The next ones stand ready, since one takes half a second to get going; each list of pages has its own,
    since one that has drawn a long paper holds some 300 MB."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._next: ProcessPoolExecutor | None = None

    def take(self) -> ProcessPoolExecutor:
        """Those that stand ready, or new ones."""
        with self._lock:
            taken, self._next = self._next, None
        return taken or self._begun()

    def leave(self, pool: ProcessPoolExecutor) -> None:
        """Their list is drawn, or given up; others get ready."""
        pool.shutdown(wait=False, cancel_futures=True)
        with self._lock:
            if self._next is None:
                self._next = self._begun()

    def _begun(self) -> ProcessPoolExecutor:
        context = get_context("forkserver")
        context.set_forkserver_preload(["cinder.exchange.sheet"])
        pool = ProcessPoolExecutor(AT_ONCE, mp_context=context, initializer=_ready)
        for _ in range(AT_ONCE):
            pool.submit(_drawn, WARM, {})
        return pool


_drawers = _Drawers()


def pdfs(pages: Iterable[str], picture: Picture | None = None) -> Iterator[tuple[int, bytes]]:
    """Several pages as PDFs, each with its place among them as soon as it is there; drawn beside each other in processes of their own,
    each begun as soon as its page is made. Raises as `pdf` does, and `BrokenProcessPool` where one of them was killed."""
    pool = _drawers.take()
    drawn: dict[Future[bytes], int] = {}
    try:
        for page in pages:
            held = {sha256: picture(sha256) for sha256 in OWN_PICTURE.findall(page)} if picture is not None else {}
            drawn[pool.submit(_drawn, page, held)] = len(drawn)
        for one in as_completed(drawn):
            yield drawn[one], one.result()
    finally:
        _drawers.leave(pool)


def _ready() -> None:
    memory.settle(every=COLLECT_EVERY)
    tempfile.tempdir = tempfile.mkdtemp(prefix="cinder-draws-")  # fonts are laid there while they are used
    Finalize(None, shutil.rmtree, (tempfile.tempdir, True), exitpriority=0)
    threading.Thread(target=_end_with, args=(parent_process(), tempfile.tempdir), daemon=True).start()


def _end_with(parent: BaseProcess | None, folder: str) -> None:
    """Whoever asked for it may be killed; nothing of it is left behind."""
    if parent is not None:
        parent.join()
        shutil.rmtree(folder, ignore_errors=True)
        os._exit(0)


def warm() -> None:
    """Load what draws, here and beside, so that the first paper does not wait for it."""
    for _ in pdfs([WARM]):
        pdf(WARM)


def _drawn(page: str, pictures: dict[str, bytes]) -> bytes:
    return pdf(page, pictures.__getitem__)
