"""The catalogue with 10,000 looks: answers of the server beside the bare SQL, first pictures, a contact
sheet, the map in a browser.

And what 1,000,000 looks would need: the same SQL on rows that the database makes up from those 10,000.
"""

import os
import shutil
import statistics
import subprocess
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from http.cookiejar import CookieJar
from json import dumps, loads
from typing import Any
from urllib.request import HTTPCookieProcessor, OpenerDirector, Request, build_opener

import psycopg
from playwright.sync_api import Page, sync_playwright

from launch.places import ROOT, python

from .amount import much
from .instance import LOOKS, instance
from .report import Table

#: How often each search is asked.
TIMES = much(40, 2)
#: Rows of the large table.
MANY = much(1_000_000, 32)
#: The words that a misspelt one may stand for, as a query of the full text.
MEANT = (
    "(SELECT string_agg(quote_literal(word), ' | ')::tsquery FROM "
    "(SELECT word FROM catalogue_word WHERE word %> 'ochrre' ORDER BY word <->> 'ochrre' LIMIT 8) AS meant)"
)
FLAGS = [
    "--no-sandbox",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-sync",
]
#: What is asked of the server, and the least SQL that finds the same ids.
SEARCHES = (
    ("all, by name", "", "TRUE", "name, look_id"),
    ("a word", "q=kiln", "document @@ to_tsquery('simple', '''kiln'':*')", "name, look_id"),
    (
        "three words for what it does",
        "q=warm+dusk+soft",
        "document @@ to_tsquery('simple', '''warm'':* & ''dusk'':* & ''soft'':*')",
        "name, look_id",
    ),
    (
        "tag, status and two ranges",
        "tag=dusk&status=approved&range=warmth:2:30&range=contrast::1.1",
        "tags @> '{dusk}' AND status = 'approved' AND warmth BETWEEN 2 AND 30 AND contrast <= 1.1",
        "name, look_id",
    ),
    (
        "by warmth, page 200",
        "order=warmth&offset=4800",
        "TRUE",
        "warmth DESC NULLS LAST, name, look_id OFFSET 4800",
    ),
    ("a misspelt word", "q=ochrre", f"document @@ {MEANT}", "name, look_id"),
)


def _times(work: Callable[[], object], count: int = TIMES) -> tuple[float, float]:
    """Middle and 95 % in milliseconds."""
    work()
    taken = []
    for _ in range(count):
        start = time.perf_counter()
        work()
        taken.append((time.perf_counter() - start) * 1000)
    return statistics.median(taken), statistics.quantiles(taken, n=20)[-1]


class _Person:
    """Somebody signed in, without a browser."""

    def __init__(self, address: str) -> None:
        self.address, self.cookies = address, CookieJar()
        self.open: OpenerDirector = build_opener(HTTPCookieProcessor(self.cookies))
        self.get("/api/session")
        self.post("/api/sign-in", {"username": "ines", "password": "slip-and-glaze"})

    def get(self, path: str) -> bytes:
        with self.open.open(self.address + path) as answer:
            data: bytes = answer.read()
        return data

    def post(self, path: str, body: dict[str, Any]) -> Any:
        token = next(c.value for c in self.cookies if c.name == "csrftoken")
        headers = {"Content-Type": "application/json", "X-CSRFToken": str(token)}
        with self.open.open(Request(self.address + path, dumps(body).encode(), headers)) as answer:
            return loads(answer.read())


def _ms(pair: tuple[float, float]) -> list[str]:
    return [f"{pair[0]:.0f} ms", f"{pair[1]:.0f} ms"]


def _searches(person: _Person, database: psycopg.Connection[Any]) -> Table:
    table = Table(f"Searching {LOOKS:,} looks, 24 cards", ["search", "server", "95 %", "bare SQL", "95 %"])
    for name, query, where, order in SEARCHES:
        limit = order if "OFFSET" in order else f"{order} LIMIT 24"
        sql = f"SELECT look_id FROM catalogue_entry WHERE {where} ORDER BY {limit}".replace(
            "OFFSET 4800", "LIMIT 24 OFFSET 4800"
        )
        served = _times(lambda query=query: person.get(f"/api/catalogue?limit=24&{query}"))  # type: ignore[misc]
        bare = _times(lambda sql=sql: database.execute(sql).fetchall())  # type: ignore[misc]
        table.add(name, *_ms(served), *_ms(bare))
        table.want(f"{name}, 95 %:", served[1], 50, " ms")
    first = loads(person.get(f"/api/catalogue?limit=1&offset={LOOKS // 20}"))["cards"][0]["id"]
    near = (
        "SELECT look_id FROM catalogue_entry ORDER BY gist <-> (SELECT gist FROM catalogue_entry WHERE "
        f"look_id = {first}) LIMIT 96"
    )
    for name, path in (("like this one", ""), ("like this, but warmer", "?but=warmth:more")):
        served = _times(lambda path=path: person.get(f"/api/catalogue/{first}/like{path}"))  # type: ignore[misc]
        table.add(name, *_ms(served), *_ms(_times(lambda: database.execute(near).fetchall())))
        table.want(f"{name}:", served[0], 50, " ms")
    table.add(
        "all there is to narrow by, counted",
        *_ms(_times(lambda: person.get("/api/catalogue/filters"))),
        "",
        "",
    )
    table.add("all places of the map", *_ms(_times(lambda: person.get("/api/catalogue/map"))), "", "")
    return table


def _pictures(person: _Person) -> Table:
    table = Table("Pictures that were never drawn before", ["what", "time"])
    frames = [f["id"] for f in loads(person.get("/api/frames"))]

    def drawn(cards: list[dict[str, Any]], frame: int) -> float:
        addresses = [f"/api/revisions/{c['revision']['id']}/still?frame={frame}&width=320" for c in cards]
        start = time.perf_counter()
        with ThreadPoolExecutor(6) as pool:
            list(pool.map(person.get, addresses))
        return (time.perf_counter() - start) * 1000

    page = person.get(f"/api/catalogue?limit=24&offset={LOOKS // 5}")
    person.get(f"/api/frames/{frames[2]}/still?width=320")
    drawn(loads(person.get(f"/api/catalogue?limit=6&offset={LOOKS // 2}"))["cards"], frames[2])
    taken = drawn(loads(page)["cards"], frames[2])
    table.add("24 cards on a frame", f"{taken:.0f} ms")
    table.want("24 cards:", taken, 300, " ms")
    following = loads(person.get(f"/api/catalogue?limit=24&offset={LOOKS // 5 + 24}"))
    table.add("the next 24", f"{drawn(following['cards'], frames[2]):.0f} ms")
    first = person.get("/api/catalogue?limit=48")
    size = (len(first) + len(person.get("/api/catalogue/filters"))) / 1000
    table.add("the first page without pictures", f"{size:.0f} kB")
    table.want("the first page:", size, 100, " kB")
    looks = [c["id"] for c in loads(person.get(f"/api/catalogue?limit=20&offset={LOOKS // 3}"))["cards"]]
    sheet = person.post("/api/sheets", {"name": "Twenty by eight", "looks": looks, "frames": frames[:8]})
    cells = [(r["id"], c["id"]) for r in sheet["rows"] for c in sheet["columns"]]
    start = time.perf_counter()
    with ThreadPoolExecutor(6) as pool:
        list(
            pool.map(
                lambda at: person.get(
                    f"/api/sheets/{sheet['id']}/still?row={at[0]}&column={at[1]}&width=320"
                ),
                cells,
            )
        )
    taken = time.perf_counter() - start
    table.add(f"a contact sheet of 20 × {len(sheet['columns'])}", f"{taken:.1f} s")
    table.want("the contact sheet:", taken, 3, " s")
    return table


def _map(address: str) -> Table:
    table = Table(f"The map with {LOOKS:,} marks, in a browser without a graphics card", ["what", "time"])
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium"), args=FLAGS)
        page: Page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{address}/sign-in?next=/catalogue?view=map")
        page.get_by_label("Name").fill("ines")
        page.get_by_label("Password").fill("slip-and-glaze")
        page.get_by_role("button", name="Sign in").click()
        page.wait_for_url(lambda url: "/sign-in" not in url)
        page.goto(f"{address}/catalogue?view=map")
        page.locator("canvas[data-drawn]").wait_for()
        box = page.get_by_role("application").bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + 500, box["y"] + 300)
        page.mouse.wheel(0, -120)
        page.wait_for_timeout(500)
        page.evaluate(
            """() => { window.gaps = []; let last = 0;
            const each = (now) => { if (last) window.gaps.push(now - last);
    last = now; requestAnimationFrame(each); };
            requestAnimationFrame(each); }"""
        )
        page.mouse.down()
        for k in range(60):
            page.mouse.move(box["x"] + 500 + 4 * (k % 30), box["y"] + 300 + 2 * (k % 20))
            page.wait_for_timeout(16)
        page.mouse.up()
        gaps: list[float] = page.evaluate("window.gaps")
        browser.close()
    table.add("from one picture to the next while panning", f"{statistics.median(gaps):.0f} ms")
    table.add("95 %", f"{statistics.quantiles(gaps, n=20)[-1]:.0f} ms")
    return table


def _million(database: psycopg.Connection[Any]) -> Table:
    """Rows made up from those that are there: every one a hundred times, its traits, gist and words moved a
    little."""
    table = Table(f"{MANY:,} looks, made-up rows: bare SQL", ["what", "time"])
    database.execute("DROP TABLE IF EXISTS many_entries")
    start = time.perf_counter()
    database.execute(
        f"""CREATE UNLOGGED TABLE many_entries AS
        SELECT e.look_id * 1000 + g AS look_id, e.name || ' ' || g AS name, e.status, e.tags,
          e.warmth + random() - 0.5 AS warmth,
    e.contrast * (0.95 + 0.1 * random()) AS contrast, e.gist, e.document,
          e.text || ' ' || g AS text
        FROM catalogue_entry e, generate_series(1, {MANY // LOOKS}) g"""
    )
    for index in (
        "(name, look_id)",
        "USING gin (tags)",
        "USING gin (document)",
        "USING gin (text gin_trgm_ops)",
        "(warmth)",
    ):
        database.execute(f"CREATE INDEX ON many_entries {index}")
    database.execute("ANALYZE many_entries")
    table.add("rows and indexes made", f"{time.perf_counter() - start:.0f} s")
    size = database.execute("SELECT pg_total_relation_size('many_entries')").fetchone()
    assert size is not None
    table.add("on the disk", f"{size[0] / 2**30:.1f} GiB")
    for name, _, where, order in SEARCHES:
        limit = (
            order.replace("OFFSET 4800", "LIMIT 24 OFFSET 4800") if "OFFSET" in order else f"{order} LIMIT 24"
        )
        sql = f"SELECT look_id FROM many_entries WHERE {where} ORDER BY {limit}"
        table.add(name, f"{_times(lambda sql=sql: database.execute(sql).fetchall(), 5)[0]:,.0f} ms")  # type: ignore[misc]
    near = (
        "SELECT look_id FROM many_entries ORDER BY gist <-> (SELECT gist FROM many_entries LIMIT 1) LIMIT 96"
    )
    table.add(
        "like one of them, every row compared",
        f"{_times(lambda: database.execute(near).fetchall(), 3)[0]:,.0f} ms",
    )
    counted = "SELECT status, count(*) FROM many_entries GROUP BY 1"
    table.add("counted by status", f"{_times(lambda: database.execute(counted).fetchall(), 3)[0]:,.0f} ms")
    database.execute("DROP TABLE many_entries")
    return table


def run() -> list[Table]:
    """Starts a Saucer with 10,000 looks, which takes some minutes, and measures it."""
    with instance(LOOKS) as (application, address):
        # As the database would do by itself within a minute or two.
        code = (
            "import django; django.setup(); from django.db import connection; "
            "connection.cursor().execute('VACUUM ANALYZE')"
        )
        env = {**os.environ, **application.env, "PYTHONPATH": f"{ROOT / 'core'}:{ROOT / 'server'}"}
        subprocess.run([python(), "-c", code], env=env, cwd=ROOT, check=True)
        person = _Person(address)
        options = "-c pg_trgm.word_similarity_threshold=0.5"
        with psycopg.connect(application.env["DATABASE_URL"], autocommit=True, options=options) as database:
            return [_searches(person, database), _pictures(person), _map(address), _million(database)]
