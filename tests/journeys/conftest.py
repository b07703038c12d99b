"""A real browser (Debian's Chromium) on the served application."""

import itertools
import re

import httpx
import pytest
from playwright.sync_api import Page, expect

from tests.conftest import tansy_cut

NUMBER = itertools.count()
BROWSER = "/usr/bin/chromium-headless-shell"
"""Without the windows and menus nobody sees a journey takes a quarter less of the processor."""
FLAGS = [
    "--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage", "--disable-background-networking",
    "--disable-component-update", "--no-first-run",
]  # fmt: skip
expect.set_options(timeout=30_000)  # a wait, not a speed: a busy machine of two cores takes its time


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args):
    return {**browser_type_launch_args, "executable_path": BROWSER, "args": FLAGS}


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args):
    return {**browser_context_args, "viewport": {"width": 1280, "height": 800}, "locale": "en-GB"}


@pytest.fixture(scope="session")
def base_url(server):
    return server.url


@pytest.fixture(autouse=True)
def quiet_console(page: Page, server):
    """No page may log an error, or ask anybody but our own server for anything."""
    said, asked = [], []
    page.on("console", lambda m: said.append(m.text) if m.type == "error" else None)
    page.on("pageerror", lambda e: said.append(str(e)))
    page.on("request", lambda r: None if r.url.startswith((server.url, "data:", "blob:")) else asked.append(r.url))
    yield said
    noise = re.compile(
        r"ERR_CONNECTION_REFUSED|ERR_EMPTY_RESPONSE|ERR_INCOMPLETE_CHUNKED|"
        r"ERR_CONNECTION_RESET|ERR_SOCKET_NOT_CONNECTED|ERR_FAILED|ERR_INTERNET_DISCONNECTED|ERR_NETWORK_CHANGED|status of (4\d\d|503)"
    )
    assert [text for text in said if not noise.search(text)] == []
    assert asked == []


@pytest.fixture
def job(server):
    """A fresh copy of the demo job for one journey."""
    document = tansy_cut() | {"id": f"journey-{next(NUMBER)}"}
    assert httpx.post(f"{server.url}/api/jobs/import", json=document).status_code == 201
    return document["id"]


CHANGES = re.compile(r"/changes(/row)?(\?|$)")
"""Where edits are sent."""


def document_of(server, job):
    return httpx.get(f"{server.url}/api/jobs/{job}").json()["job"]


def figure(page: Page, key: str) -> float:
    """A headline figure of the ember bar as a number."""
    text = page.locator(f"[data-figure={key}] .figure").inner_text()
    return float(re.sub(r"[^\d.,−-]", "", text.split("\n")[0]).replace("−", "-"))


def saved(page: Page) -> None:
    expect(page.get_by_text(re.compile(r"^Saved .* version \d+$"))).to_be_visible()


def onward(page: Page, job: str, screen: str) -> None:
    """To a screen of a job within the page, as by a link: a quarter of the time of loading it anew."""
    path = f"/job/{job}/{screen}"
    if f"/job/{job}/" not in page.url:
        page.goto(path)
        return
    page.evaluate(
        """(path) => {
          const link = document.createElement('a');
          link.href = path;
          document.body.append(link);
          link.click();
          link.remove();
        }""",
        path,
    )
    expect(page).to_have_url(re.compile(re.escape(path) + "$"))
    current = page.get_by_role("navigation", name="Places of work").locator("[aria-current=page]")
    expect(current).to_have_attribute("href", path.split("?")[0])  # the screen itself, not what stood there before
    page.wait_for_timeout(50)


def go(page: Page, screen: str) -> None:
    """To another screen by the trail, unfolding its place first where it is folded."""
    trail = page.get_by_role("navigation", name="Places of work")
    expect(trail).to_be_visible()
    link = trail.get_by_role("link", name=re.compile(f"^{re.escape(screen)}"))
    for place in trail.locator("button[aria-expanded]").all():
        if link.is_visible():
            break
        if place.get_attribute("aria-expanded") == "false":
            place.click()
    link.click()
