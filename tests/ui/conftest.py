"""A real server and Debian's Chromium for every test of the interface."""

from pathlib import Path
from shutil import copy, which

import pytest
from playwright.sync_api import expect

from vessel.demo.serving import free_port, serving

ROOT = Path(__file__).parents[2]
expect.set_options(timeout=90_000)  # patience for a loaded machine; nothing is judged by time
DESK = {"width": 1280, "height": 800}
PHONE = {"width": 390, "height": 844}


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args):
    quiet = [
        "--no-sandbox",
        "--disable-gpu",
        "--in-process-gpu",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        "--renderer-process-limit=1",  # a fresh process would compile the scripts anew for every page
        "--disable-site-isolation-trials",
    ]
    # Debian's Chromium without a window: the same pages for less of the processor
    shell = which("chromium-headless-shell") or "/usr/bin/chromium"
    return {**browser_type_launch_args, "executable_path": shell, "args": quiet}


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args):
    return {**browser_context_args, "viewport": DESK, "locale": "en-GB", "timezone_id": "UTC"}


@pytest.fixture(scope="session")
def port():
    """One port for all tests, so that the browser has the scripts already: loading them anew took most of its time."""
    return free_port()


@pytest.fixture
def address(tmp_path, blank_database, port):
    """An empty Vessel."""
    with serving(Path(copy(blank_database, tmp_path / "vessel.sqlite3")), port) as url:
        yield url


@pytest.fixture
def demo_address(tmp_path, demo_database, port):
    """Vessel with the demo jobs."""
    with serving(Path(copy(demo_database, tmp_path / "demo.sqlite3")), port) as url:
        yield url


@pytest.fixture(scope="session")
def shown_address(tmp_path_factory, demo_database):
    """Vessel with the demo jobs, for tests that only look."""
    with serving(Path(copy(demo_database, tmp_path_factory.mktemp("shown") / "demo.sqlite3"))) as url:
        yield url


@pytest.fixture(scope="session")
def kept_context(browser, browser_context_args):
    """What the browser keeps between tests: scripts, fonts and its window, by a page that stays open."""
    with browser.new_context(**browser_context_args) as kept:
        kept.new_page()
        yield kept


@pytest.fixture
def context(kept_context):
    """The kept context with no page of another test open."""
    yield kept_context
    for page in kept_context.pages[1:]:
        page.close()


def listened_to(page):
    """Return where every script error of a page will be written, the page being ready to work on."""
    page.add_init_script("localStorage['vessel.who'] ??= 'R. Tallow'")
    errors = []
    page.on("pageerror", lambda e: errors.append(str(e)))
    page.on(
        "console", lambda m: errors.append(m.text) if m.type == "error" and "Failed to load" not in m.text else None
    )
    page.set_default_timeout(90_000)
    return errors


@pytest.fixture(scope="session")
def shown_page(kept_context, shown_address):
    """The page that stays open, with the demo jobs, and its errors."""
    page = kept_context.pages[0]
    errors = listened_to(page)
    page.goto(shown_address)
    return page, errors


@pytest.fixture
def shown(shown_page):
    """The demo jobs on a page that `go_on` leads from view to view, for tests that only look at one."""
    page, errors = shown_page
    page.set_viewport_size(DESK)
    show_in(page, "light")
    go_on(page, "/none")  # so that nothing opened in the view before is open in the next one
    yield page
    assert errors == []
    assert "NaN" not in page.inner_text("body")


@pytest.fixture
def page(context):
    """A page on which nothing is left of other tests, and no script error and no broken figure goes unseen."""
    page = context.new_page()
    page.set_viewport_size(DESK)
    errors, cleared = listened_to(page), []
    go = page.goto

    def settled_at(address, **how):
        """Go there and wait: what comes in above would move a button from under the click."""
        if not cleared:
            origin = "/".join(address.split("/")[:3])
            here = {"origin": origin, "storageTypes": "local_storage"}
            context.new_cdp_session(page).send("Storage.clearDataForOrigin", here)
            cleared.append(origin)
        go(address, **how)
        if not how:
            settled(page)

    page.goto = settled_at
    yield page
    assert errors == []
    assert "NaN" not in page.inner_text("body")


SETTLED = """() => new Promise((done) => {
  let calm = 0;
  const look = () => {
    const there = location.pathname.endsWith(document.querySelector("main")?.dataset.page ?? "?");
    calm = there && !document.querySelector('[aria-busy="true"]') ? calm + 1 : 0;
    calm < 3 ? setTimeout(look, 20) : done(true);
  };
  look();
})"""


def settled(page):
    """Wait until every answer that the page asked for is there and shown."""
    page.evaluate(SETTLED)


GO_ON = """path => { history.pushState({}, '', path); dispatchEvent(new PopStateEvent('popstate')) }"""


def go_on(page, path):
    """Open another page of Vessel as its links do: its scripts are loaded already."""
    page.evaluate(GO_ON, path)
    settled(page)


def view(page, name):
    """Open one of the views beside each other on a stage."""
    page.get_by_role("tab", name=name).click()


def about_line(page):
    """Open what stands behind the line's name, and return it."""
    page.get_by_role("button", name="About this line").click()
    return page.get_by_label("This line", exact=True)


def edit_line(page):
    """Open the line's form."""
    page.get_by_role("button", name="Edit this line").click()


THEMES = ("light", "dark", "sun")
AXE = (ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text(encoding="utf-8")


def complaints(page, rules="{}"):
    """Return what axe finds wrong with the page as it is; what is well it need not describe."""
    if page.evaluate("typeof axe") == "undefined":
        page.evaluate(AXE)
    return page.evaluate(
        f"axe.run({{...{rules}, resultTypes: ['violations'], selectors: false}}).then(r => r.violations.flatMap(v => v.nodes.map("
        "n => v.id + ': ' + (n.any[0]?.message ?? '') + n.html.slice(0, 120))))"
    )


def show_in(page, theme):
    """Show the page in a theme, as the display button does."""
    page.evaluate(f"document.documentElement.dataset.theme = '{theme}'")
