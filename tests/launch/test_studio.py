"""docs/studio.md, followed literally: machines of one's own, made of its lines and of nothing else.

Two machines with web processes and a front, one with workers, a database, a storage; network namespaces stand
in for machines.
"""

import re
import shlex
import subprocess
from pathlib import Path

import requests

from launch.places import ROOT, python

from .test_machines import Network, Visitor, _comes, _database, _picture, _storage, network, pytestmark

__all__ = ["network", "pytestmark"]

TEXT = (ROOT / "docs" / "studio.md").read_text()
PART = TEXT[TEXT.index("## Parts of one's own") : TEXT.index("A bucket of an S3-compatible storage")]
FRONT = 8443
#: Seconds. A machine that many share stands still for a while; none of this is about speed.
PATIENCE = 60


def blocks(kind: str) -> list[str]:
    """What stands in blocks of that kind, in order."""
    return [
        rest
        for first, _, rest in (block.partition("\n") for block in PART.split("```")[1::2])
        if first == kind
    ]


def written(line: str, network: Network) -> list[str]:
    """A command of the page, with the places of this machine."""
    line = line.replace("/srv/saucer/.venv/bin/python", str(python())).replace("/srv/saucer/", f"{ROOT}/")
    return shlex.split(line.replace("/srv/saucer-", f"{network.folder}/"))


def units(network: Network) -> dict[str, list[str]]:
    found = {}
    for name, line in re.findall(r"# saucer-([a-z-]+)\.service.*\nExecStart=(.*)", "\n".join(blocks("ini"))):
        found[name] = written(line, network)
    return found


def environment(network: Network, database: str) -> dict[str, str]:
    given = dict(line.split("=", 1) for line in blocks("ini")[0].splitlines())
    for key, value in given.items():
        given[key] = value.replace("/srv/saucer-", f"{network.folder}/")
    return given | {"DATABASE_URL": database, "SAUCER_HOSTS": "*", "SAUCER_WEB_PROCESSES": "1"}


def test_a_studio_made_of_the_lines_of_its_page_works(network: Network) -> None:
    database, store = _database(network), _storage(network)
    env = environment(network, database) | store
    assert set(env) > {"SAUCER_SECRET_KEY", "SAUCER_DROP_FOLDER", "DJANGO_SETTINGS_MODULE"}
    build, migrate, lead = (written(line, network) for block in blocks("") for line in block.splitlines())
    for words, said in ((build, ""), (migrate, ""), (lead, "slip-and-glaze\n")):
        kept = {"PATH": "/usr/bin:/bin:/usr/sbin:/sbin", "HOME": str(network.folder), **env}
        done = subprocess.run(words, input=said, text=True, cwd=network.folder, env=kept, capture_output=True)
        assert done.returncode == 0, f"{words}: {done.stdout} {done.stderr}"
    hosts = [network.machine(name) for name in ("web-1", "web-2")]
    network.machine("worker")
    lines = units(network)
    assert set(lines) == {"web", "front", "worker", "worker-soon"}
    for name in ("web-1", "web-2"):
        for unit in ("web", "front"):
            # Each machine has a folder of its own for its front.
            words = [
                word.replace("/front", f"/{name}-front") if word.startswith(str(network.folder)) else word
                for word in lines[unit]
            ]
            network.run(name, words, env, f"-{unit}")
    for unit in ("worker", "worker-soon"):
        network.run("worker", list(lines[unit]), env, f"-{unit}")
    for host in hosts:
        _comes(f"http://{host}:{FRONT}/api/health")
        _comes(f"http://{host}:{FRONT}/api/health", 200)

    one = Visitor(hosts, FRONT)
    one.until("ready", lambda said: all(said.values()))
    # The page, a script of it packed by the build, and the first lead.
    page = requests.get(f"http://{hosts[0]}:{FRONT}/", timeout=PATIENCE)
    script = re.search(r'src="(/assets/[^"]+\.js)"', page.text)
    assert script is not None
    packed = requests.get(f"http://{hosts[1]}:{FRONT}{script[1]}", timeout=PATIENCE)
    assert (packed.status_code, packed.headers["Content-Encoding"]) == (200, "gzip")
    assert one.ask("GET", "me").json()["name"] == "Odile Marrin"

    # Both fronts and all web processes share a key: a pass of one opens what another one keeps.
    with _picture(network.folder, 1).open("rb") as file:
        frame = one.ask(
            "POST", "frames", data={"name": "Shot", "encoding": "srgb"}, files={"file": file}
        ).json()
    address = f"frames/{frame['id']}/still?width=320&v={frame['version']}"
    for host in hosts:
        there = Visitor([host], FRONT)
        there.cookies = dict(one.cookies)
        assert [there.ask("GET", address).headers["X-Kept"] for _ in range(2)] == ["MISS", "HIT"], host

    # A delivery is made by the worker and comes to the drop folder that all share.
    look = one.ask(
        "POST",
        "looks",
        json={"name": "Glaze", "draft": {"steps": [{"id": "a", "kind": "exposure", "stops": 0.4}]}},
    ).json()
    revision = one.ask("POST", f"looks/{look['id']}/revisions", json={"note": ""}).json()
    project = one.ask("POST", "projects", json={"name": "Yard", "note": ""}).json()
    at = f"projects/{project['id']}"
    one.ask("POST", f"{at}/shots", json={"frames": [frame["id"]]})
    one.ask(
        "POST", f"{at}/assign", json={"whole": True, "layers": [{"revision": revision["id"], "strength": 1}]}
    )
    one.ask(
        "POST",
        f"{at}/deliveries",
        json={"parts": ["looks"], "grid": 17, "held": "anyway", "drop_folder": True},
    )
    made = one.until(f"{at}/deliveries", lambda all: all[0]["drop_folder"]["state"] in ("there", "failed"))[0]
    assert made["drop_folder"]["state"] == "there", made["drop_folder"]
    assert list((Path(env["SAUCER_DROP_FOLDER"]) / made["drop_folder"]["place"]).rglob("*.cube"))
