"""An installation of the first landing, brought up to date: what was kept then is there, gives the same
colours, and has the same address.

``kept/first_landing.json`` was written by the core of the first landing itself: the demo looks of that day,
their digests, and what they made of eight colours.
"""

import json
import os
import subprocess
import uuid
from pathlib import Path
from typing import Any

import numpy as np
import psycopg
import pytest
from saucer_core.look import Look
from saucer_core.treatment import evaluate

from launch.places import ROOT, python

KEPT = Path(__file__).parent / "kept" / "first_landing.json"
FIRST = json.loads(KEPT.read_text())
#: The migrations that there were.
THEN = {
    "people": "0001",
    "jobs": "0002",
    "frames": "0002",
    "looks": "0002",
    "catalogue": "0002",
    "projects": "0001",
}

#: Runs the migrations up to those, and writes rows as that installation did. The chain of then is followed,
#: not its squashed form.
FILL = """
import json, sys
import django
django.setup()
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.db.migrations.loader import MigrationLoader
then = json.loads(sys.argv[2])
executor = MigrationExecutor(connection)
executor.loader = MigrationLoader(connection, replace_migrations=False)
single = [key for key, migration in executor.loader.disk_migrations.items() if not migration.replaces]
first = lambda app, number: next(key for key in single if key[0] == app and key[1].startswith(number))
targets = [first(app, number) for app, number in then.items()]
executor.migrate(targets)
apps = executor.loader.project_state(targets).apps
of = apps.get_model
ines = of("people", "Person").objects.create(username="ines", full_name="Ines Tallow", role="designer")
frame = of("frames", "Frame").objects.create(
    name="Ramp", encoding="srgb", digest="a" * 64, file="frames/aa/a.png", file_name="a.png", kind="PNG",
    depth="8 bit", width=64, height=36,
    trim={"exposure": 0.5, "temperature": 0, "tint": 0, "contrast": 1}, added_by=ines)
project = of("projects", "Project").objects.create(name="Kiln", made_by=ines)
for number, one in enumerate(json.load(open(sys.argv[1]))["looks"], 1):
    look = of("looks", "Look").objects.create(
        name=one["name"], maker=ines, draft_by=ines, draft=one["recipe"])
    kept = of("looks", "Revision").objects.create(
        look=look, number=1, recipe=one["recipe"], digest=one["digest"], status=one["status"], made_by=ines)
    of("catalogue", "Tag").objects.get_or_create(name="kiln")[0].looks.add(look)
    of("projects", "Shot").objects.create(
        project=project, number=number, name=one["name"], frame=frame, revision=kept,
        strength=0.5, trim=frame.trim)
"""
READ = """
import json
import django
django.setup()
from django.test import Client
from saucer_server.people.rules import Person
client = Client(HTTP_HOST="localhost")
client.force_login(Person.objects.get(username="ines"))
def got(path):
    answer = client.get("/api" + path)
    assert answer.status_code == 200, (path, answer.status_code, answer.content)
    return answer.json()
looks = [got(f"/looks/{w['id']}") for w in got("/looks")]
print(json.dumps({
    "looks": looks,
    "recipes": {r["id"]: got(f"/revisions/{r['id']}/recipe") for l in looks for r in l["revisions"]},
    "cards": got("/catalogue")["cards"], "project": got("/projects/1"),
    "wall": len(got("/catalogue?tag=kiln")["cards"]),
}))
"""


#: What the tables hold and allow. A name that was made from a table's older name counts as its newer one.
TABLES = """
    select table_name, column_name, data_type, is_nullable, coalesce(column_default, '')
    from information_schema.columns where table_schema = 'public'
    union all select conrelid::regclass::text, '', pg_get_constraintdef(oid), contype::text, ''
    from pg_constraint where connamespace = 'public'::regnamespace
    union all select tablename, '', regexp_replace(indexdef, 'INDEX [^ ]+', 'INDEX'), 'index', ''
    from pg_indexes where schemaname = 'public'
    union all select tgrelid::regclass::text, tgname, pg_get_triggerdef(oid), 'trigger', ''
    from pg_trigger where not tgisinternal
"""


def tables(address: str) -> set[tuple[str, ...]]:
    with psycopg.connect(address) as database:
        return {row for row in database.execute(TABLES).fetchall() if not row[0].startswith("procrastinate")}


@pytest.fixture(scope="module")
def upgraded(tmp_path_factory):
    """What the interface of today tells of an installation of the first landing."""
    server, _, _ = os.environ["DATABASE_URL"].rpartition("/")
    name = f"upgrade_{uuid.uuid4().hex[:12]}"
    with psycopg.connect(f"{server}/postgres", autocommit=True) as admin:
        admin.execute(f"create database {name}")
    env = {
        **os.environ,
        "DATABASE_URL": f"{server}/{name}",
        "SAUCER_DATA": str(tmp_path_factory.mktemp("upgrade")),
        "SAUCER_LOG": "ERROR",
        "DJANGO_SETTINGS_MODULE": "saucer_server.settings",
        "PYTHONPATH": f"{ROOT / 'core'}:{ROOT / 'server'}",
    }

    def run(*words: str) -> str:
        done = subprocess.run([str(python()), *words], env=env, cwd=ROOT, capture_output=True, text=True)
        assert done.returncode == 0, done.stderr[-3000:]
        return done.stdout

    manage = str(ROOT / "server" / "manage.py")
    try:
        run("-c", FILL, str(KEPT), json.dumps(THEN))
        run(manage, "migrate", "--no-input")
        told: dict[str, Any] = json.loads(run("-c", READ))
        yield told | {"tables": tables(env["DATABASE_URL"])}
    finally:
        with psycopg.connect(f"{server}/postgres", autocommit=True) as admin:
            admin.execute(f"drop database {name} with (force)")


def test_every_look_and_revision_is_there_under_its_address(upgraded):
    wanted = {one["name"]: one for one in FIRST["looks"]}
    assert {look["name"] for look in upgraded["looks"]} == set(wanted)
    for look in upgraded["looks"]:
        (kept,) = look["revisions"]
        # A digest names a revision for as long as it is kept; files that were baked then carry it.
        assert kept["digest"] == wanted[look["name"]]["digest"]
        assert kept["status"] == wanted[look["name"]]["status"]
        # Every designer changed every look then, and still does.
        assert look["shared"] is True
        assert look["may_edit"] is True


def test_what_was_kept_gives_the_colours_that_it_gave(upgraded):
    colours = np.array(FIRST["colours"], np.float32)
    wanted = {one["name"]: np.array(one["gives"]) for one in FIRST["looks"]}
    for look in upgraded["looks"]:
        for recipe in (look["draft"], upgraded["recipes"][str(look["revisions"][0]["id"])]):
            given = evaluate(Look.model_validate(recipe), colours)
            # The file holds five digits.
            np.testing.assert_allclose(given, wanted[look["name"]], atol=1e-5)


def test_catalogue_and_project_are_there(upgraded):
    published = {c["name"] for c in upgraded["cards"]}
    assert len(published) == len(FIRST["looks"])
    assert upgraded["wall"] == len(FIRST["looks"])
    shots = upgraded["project"]["shots"]
    assert [s["name"] for s in shots] == [one["name"] for one in FIRST["looks"]]
    for shot in shots:
        (layer,) = shot["layers"]
        assert layer["revision"]["look_name"] == shot["name"]
        assert layer["strength"] == 0.5
        assert shot["trim"]["exposure"] == 0.5


def test_an_older_installation_gets_the_tables_of_a_new_one(upgraded, tmp_path):
    """The squashed migrations make what the chain makes that they replace."""
    server, _, _ = os.environ["DATABASE_URL"].rpartition("/")
    name = f"new_{uuid.uuid4().hex[:12]}"
    with psycopg.connect(f"{server}/postgres", autocommit=True) as admin:
        admin.execute(f"create database {name}")
        try:
            env = {
                **os.environ,
                "DATABASE_URL": f"{server}/{name}",
                "DJANGO_SETTINGS_MODULE": "saucer_server.settings",
            }
            subprocess.run(
                [str(python()), str(ROOT / "server" / "manage.py"), "migrate", "-v", "0"],
                env=env,
                cwd=ROOT,
                check=True,
            )
            assert upgraded["tables"] == tables(f"{server}/{name}")
        finally:
            admin.execute(f"drop database {name} with (force)")
