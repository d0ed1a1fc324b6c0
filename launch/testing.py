"""All checks: style, types, contracts, drift, and the three suites, on a database that is thrown away."""

import os
import shutil
import tempfile
from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from . import debian, environment
from .places import ROOT, VENV, WEB, python
from .postgres import Postgres
from .say import failures, passes, passes_quietly, say
from .serving import ONE_THREAD

#: Where mypy's plugins find the settings of the server.
_PATHS = {"PYTHONPATH": ":".join(str(ROOT / p) for p in ("core", "server", ""))}
#: Per cent of the code that the tests run at least.
FLOOR = 92
#: What of the code the tests run is printed at their end.
COVERED = (
    "--cov=saucer_core",
    "--cov=saucer_server",
    "--cov-report=term:skip-covered",
    f"--cov-fail-under={FLOOR}",
)
#: Where eslint keeps what it found, so that it looks at changed files alone.
CACHED = "node_modules/.cache/eslint/"
#: The slowest tests are named at the end.
SLOWEST = ("--durations=10",)
#: The database that those of the tests are copies of.
TEMPLATE = "saucer_tables"
#: A check: its title, and the command.
Check = tuple[str, Sequence[str | Path]]
#: What mypy looks at.
TYPED = ("core/saucer_core", "server/saucer_server", "launch", "benchmarks", "demo", "tests")


def _bin(name: str) -> Path:
    return VENV / "bin" / name


def test(words: list[str]) -> int:
    """Runs everything, or only pytest with the given words. 0 where all passed."""
    debian.ensure(browser=True)
    environment.virtual_environment(tests=True)
    web = environment.web_packages()
    environment.front_end()
    # A place that PostgreSQL's own user may look into as well.
    folder = Path(tempfile.mkdtemp(prefix="saucer-test-"))
    folder.chmod(0o711)
    postgres = Postgres(folder, throw_away=True)
    try:
        address = postgres.start() + "/postgres"
        env = {
            "DATABASE_URL": address,
            "SAUCER_DATA": str(folder / "data"),
            "DJANGO_SETTINGS_MODULE": "saucer_server.settings",
            **ONE_THREAD,
        }
        if words:
            return 0 if _pytest("tests", env, *words) else 1
        tables = _with_tables(postgres, address, env)
        good = [
            *_quick(env, web),
            passes(
                "tests of the front end (vitest)",
                ["npx", "vitest", "run", "--reporter=dot"],
                cwd=WEB,
                env=web,
            ),
            _drift(folder, env, web),
            # Two at a time where nothing needs a browser; what starts servers runs alone after that.
            _pytest("tests of core and server", tables, "-n", "2", *COVERED, "tests/core", "tests/server"),
            _pytest("tests of starting, and in a browser", tables, "tests/launch", "tests/browser"),
        ]
        say("all passed" if all(good) else f"failed, see above: {', '.join(failures)}")
        return 0 if all(good) else 1
    finally:
        postgres.stop()
        shutil.rmtree(folder, ignore_errors=True)


def _with_tables(postgres: Postgres, server: str, env: dict[str, str]) -> dict[str, str]:
    """The environment with the name of a database that has all tables: each test process copies it and makes
    none by itself."""
    address = postgres.database(server.rpartition("/")[0], TEMPLATE)
    passes(
        "tables of the tests",
        [python(), ROOT / "server" / "manage.py", "migrate", "-v", "0"],
        cwd=ROOT,
        env={**env, "DATABASE_URL": address},
    )
    return {**env, "SAUCER_TEST_TEMPLATE": TEMPLATE}


def _pytest(title: str, env: dict[str, str], *words: str) -> bool:
    return passes(title, [python(), "-m", "pytest", *SLOWEST, *words], cwd=ROOT, env=env)


def storm() -> int:
    """The long runs of which ``test`` takes a piece: every pair of writes, parts that are killed for minutes,
    all benchmarks. 0 where all held."""
    os.environ["SAUCER_STORM"] = "1"
    return test(
        ["tests/server/test_races.py", "tests/launch/test_storm.py", "tests/launch/test_measuring.py", "-s"]
    )


def check() -> int:
    """What needs no database and no browser: style, layout, types, contracts. 0 where all passed."""
    environment.virtual_environment(tests=True)
    good = _quick({"DJANGO_SETTINGS_MODULE": "saucer_server.settings"}, environment.web_packages())
    return 0 if all(good) else 1


def _quick(env: dict[str, str], web: dict[str, str]) -> list[bool]:
    """Style, layout, types and contracts: those of Python and those of the front end beside each other."""
    here: list[Check] = [
        ("style (ruff)", [_bin("ruff"), "check", "."]),
        ("layout (ruff)", [_bin("ruff"), "format", "--check", "."]),
        ("types (mypy, strict)", [_bin("mypy"), *TYPED]),
        ("contracts (import-linter)", [_bin("lint-imports")]),
    ]
    there: list[Check] = [
        ("types of the front end (tsc)", ["npx", "tsc", "--noEmit"]),
        ("layout of the front end (prettier)", ["npx", "prettier", "--check", "--log-level", "warn", "."]),
        (
            "style of the front end (eslint)",
            ["npx", "eslint", "--cache", "--cache-location", CACHED, "src", "tests", "floor"],
        ),
    ]

    def lane(checks: Sequence[Check], cwd: Path, env: dict[str, str]) -> list[bool]:
        return [passes_quietly(title, words, cwd=cwd, env=env) for title, words in checks]

    with ThreadPoolExecutor(2) as pool:
        lanes = [pool.submit(lane, here, ROOT, {**env, **_PATHS}), pool.submit(lane, there, WEB, web)]
        return [good for one in lanes for good in one.result()]


def _drift(folder: Path, env: dict[str, str], web: dict[str, str]) -> bool:
    """Whether the kept OpenAPI document and the types made from it are those of the server as it is; and its
    migrations."""
    document, types, facts = folder / "openapi.json", folder / "schema.ts", folder / "declared.json"
    kept = WEB / "src" / "api" / "declared.json"
    manage = [python(), ROOT / "server" / "manage.py"]
    return (
        passes(
            "database changes without a migration",
            [*manage, "makemigrations", "--check", "--dry-run"],
            cwd=ROOT,
            env=env,
        )
        and passes("OpenAPI document", [*manage, "write_openapi", document, facts], cwd=ROOT, env=env)
        and passes("no drift: web/openapi.json", ["cmp", document, WEB / "openapi.json"], cwd=ROOT)
        and passes("no drift: web/src/api/declared.json", ["cmp", facts, kept], cwd=ROOT)
        and passes(
            "types from it", ["npx", "openapi-typescript", str(document), "-o", str(types)], cwd=WEB, env=web
        )
        and passes(
            "no drift: web/src/api/schema.ts", ["cmp", types, WEB / "src" / "api" / "schema.ts"], cwd=ROOT
        )
    )
