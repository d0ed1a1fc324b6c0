"""The whole application on a database of its own, with the demo data, and Debian's Chromium in front of
it."""

import os
import shutil
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import psycopg
import pytest
from playwright.sync_api import Browser, Page, expect, sync_playwright

from launch.postgres import free_port
from launch.serving import Application

PASSWORD = "slip-and-glaze"
#: Debian's Chromium in a container; without background traffic of its own.
FLAGS = [
    "--no-sandbox",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
DATABASE = "saucer_browser"
#: How long a page may take, in milliseconds: a busy machine stands still for seconds, and none of these tests
#: is about speed.
PATIENCE = 30_000
expect.set_options(timeout=PATIENCE)


@pytest.fixture(scope="package")
def data(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The folder of what that Saucer keeps."""
    return tmp_path_factory.mktemp("site")


@pytest.fixture(scope="package")
def site(data: Path) -> Iterator[str]:
    """The address of a running Saucer with demo data."""
    server, _, _ = os.environ["DATABASE_URL"].rpartition("/")
    with psycopg.connect(f"{server}/postgres", autocommit=True) as admin:
        admin.execute(f"drop database if exists {DATABASE} with (force)")
        template = os.environ.get("SAUCER_TEST_TEMPLATE")
        admin.execute(f"create database {DATABASE}" + (f" template {template}" if template else ""))
    before = {k: os.environ.get(k) for k in ("DATABASE_URL", "SAUCER_DATA")}
    os.environ["DATABASE_URL"] = f"{server}/{DATABASE}"
    application = Application(data, "127.0.0.1", free_port())
    try:
        yield application.start()
    finally:
        application.stop()
        os.environ.update({k: v for k, v in before.items() if v is not None})


@pytest.fixture(scope="package")
def browser(site: str) -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium"), args=FLAGS)
        yield browser
        browser.close()


@pytest.fixture(scope="package")
def sessions() -> dict[str, list[Any]]:
    """The cookies of everybody who signed in, by name: most tests are not about signing in."""
    return {}


def _sign_in(page: Page, name: str, path: str) -> None:
    page.goto(f"/sign-in?next={path}")
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    page.wait_for_url(lambda url: "/sign-in" not in url)


@pytest.fixture
def enter(site: str, browser: Browser, sessions: dict[str, list[Any]]) -> Iterator[Callable[..., Page]]:
    """A window of its own for a person of the demo team, on a page where one is named; any error on a page
    fails the test."""
    contexts = []
    errors: list[str] = []

    def one(name: str = "ines", path: str = "") -> Page:
        context = browser.new_context(
            viewport={"width": 1280, "height": 800}, base_url=site, accept_downloads=True
        )
        contexts.append(context)
        page = context.new_page()
        page.set_default_timeout(PATIENCE)
        page.on("pageerror", lambda error: errors.append(str(error)))
        if name in sessions:
            context.add_cookies(sessions[name])
            if path:
                page.goto(path)
        else:
            _sign_in(page, name, path or "/projects")
            sessions[name] = context.cookies()
        return page

    yield one
    for context in contexts:
        context.close()
    assert not errors


@pytest.fixture
def axe(enter: Callable[..., Page]) -> Callable[[Page], list[str]]:
    """What axe-core finds on a page: rule, and the first place."""
    source = (Path(__file__).parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text()

    def run(page: Page) -> list[str]:
        page.evaluate(source)
        found = page.evaluate(
            "async () => (await axe.run()).violations.map(v => `${v.id}: ${v.nodes[0].html.slice(0, 160)}`)"
        )
        return list(found)

    return run
