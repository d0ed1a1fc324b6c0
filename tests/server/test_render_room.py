"""The render room with a real feed over HTTP: the frames that it makes are those of the delivery's clips."""

import json
import shutil
import threading
from pathlib import Path
from wsgiref.simple_server import WSGIRequestHandler, make_server

import numpy as np
import pytest
from saucer_core.cli.main import main
from saucer_core.formats import clips, pictures
from saucer_server import storage
from saucer_server.wsgi import application

from .test_delivering import CLIP, delivered, package, project, shot_of_a_clip

__all__ = ["project"]

pytestmark = pytest.mark.django_db(transaction=True)


class Quiet(WSGIRequestHandler):
    def log_message(self, *_):
        pass


@pytest.fixture
def served():
    server = make_server("127.0.0.1", 0, application, handler_class=Quiet)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    yield f"http://127.0.0.1:{server.server_port}"
    server.shutdown()


def test_what_it_makes_is_what_a_delivery_holds(lead, project, revision, frame, served, tmp_path, capsys):
    shot_of_a_clip(lead, project, revision)
    row = delivered(lead, project, {"parts": ["clips", "stills", "recipes"], "clip": "ffv1"})
    listed = row.contents.shots
    assert [(s.source.file, s.source.rate) for s in listed] == [
        (frame.file_name, ""), (frame.file_name, ""), ("fire.mov", "24/1")
    ]  # fmt: skip
    assert all(one.recipe in {f.path for f in row.contents.files} for s in listed for one in s.looks)
    made = lead.post(f"/projects/{project}/feeds", {"name": "Machine room"}).json()
    address = served + made["address"][made["address"].index("/api/") :]
    footage, out = tmp_path / "footage", tmp_path / "out"
    (footage / "day 1").mkdir(parents=True)
    shutil.copy(CLIP, footage / "day 1" / "FIRE.mov")
    (footage / frame.file_name).write_bytes(storage.get(frame.original or frame.file))
    call = ["render", "--from", address, "--footage", str(footage), "--out", str(out)]
    status = main(
        [*call, "--clip", "ffv1", "--handles", "2", "--picture", "png", "--depth", "uint16", "--json"]
    )
    said = json.loads(capsys.readouterr().out)
    assert (status, said["delivery"], len(said["made"])) == (0, row.number, 3)
    for name in ("001", "002"):
        mine = pictures.read(next(out.glob(f"{name}*.png")))[0]
        theirs = pictures.read(extracted(lead, row, f"stills/{name}", tmp_path))[0]
        np.testing.assert_allclose(mine, theirs, atol=1.5 / 65535)
    both = [next(out.glob("*.mkv")), extracted(lead, row, "clips/", tmp_path)]
    frames = [read_all(path) for path in both]
    assert (len(frames[0]), len(frames[1])) == (48, 44)
    np.testing.assert_array_equal(frames[0][2:46], frames[1])


def test_who_has_no_feed_gets_nothing(lead, project, served, tmp_path, capsys):
    delivered(lead, project, {"parts": ["recipes"]})
    (tmp_path / "footage").mkdir()
    call = ["render", "--from", f"{served}/api/feed/{'x' * 32}", "--footage", str(tmp_path / "footage")]
    assert main([*call, "--out", str(tmp_path / "out")]) == 1
    assert "taken back" in capsys.readouterr().err


def extracted(who, row, begin: str, folder: Path) -> Path:
    z = package(who, row)
    return Path(z.extract(next(n for n in z.namelist() if n.startswith(begin)), folder))


def read_all(path: Path) -> np.ndarray:
    looked = clips.look_through(path)
    numbers = list(range(looked.facts.frames))
    return np.stack([rgb for _, rgb in clips.frames_in_order(path, numbers, looked.stamps)])
