"""``pull``: what is new of a feed comes into a folder, whole, and nothing lands where it should not."""

import hashlib
import json
import threading
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any

import pytest
from saucer_core.cli.main import main


class Feed:
    """A feed that a test fills; it can break off, lie, or forget who asks."""

    def __init__(self):
        self.files: dict[str, bytes] = {}
        self.delivery, self.status, self.broken, self.lies = 1, 200, 0, False
        self.asked: list[tuple[str, str]] = []
        self.entries: list[dict[str, Any]] | None = None
        feed = self

        class Handler(BaseHTTPRequestHandler):
            def do_GET(self):
                feed.asked.append((self.path, self.headers.get("Range", "")))
                if feed.status != 200:
                    return self.reply(feed.status, b"")
                if self.path == "/feed":
                    data = json.dumps(feed.manifest()).encode()
                    tag = hashlib.sha256(data).hexdigest()[:16]
                    if self.headers.get("If-None-Match") == tag:
                        return self.reply(304, b"")
                    return self.reply(200, data, {"ETag": tag})
                data = next(
                    d
                    for d in feed.files.values()
                    if hashlib.sha256(d).hexdigest() == self.path.rpartition("/")[2]
                )
                data = b"x" * len(data) if feed.lies else data
                begin = int(self.headers["Range"][6:-1]) if "Range" in self.headers else 0
                part = data[begin:]
                if feed.broken and begin == 0:
                    feed.broken -= 1
                    return self.reply(200, part[: len(part) // 2], length=len(part))
                return self.reply(206 if begin else 200, part)

            def reply(self, status, data, headers=None, length=None):
                self.send_response(status)
                for key, value in {
                    **(headers or {}),
                    "Content-Length": str(len(data) if length is None else length),
                }.items():
                    self.send_header(key, value)
                self.end_headers()
                self.wfile.write(data)

            def log_message(self, *_):
                pass

        self.server = ThreadingHTTPServer(("127.0.0.1", 0), Handler)
        threading.Thread(target=self.server.serve_forever, daemon=True).start()

    def manifest(self):
        own = [
            {
                "path": p,
                "sha256": hashlib.sha256(d).hexdigest(),
                "bytes": len(d),
                "address": f"/files/{hashlib.sha256(d).hexdigest()}",
            }
            for p, d in self.files.items()
        ]
        return {
            "project": "Kiln series",
            "delivery": self.delivery,
            "made_at": "2026-10-01T09:00:00+00:00",
            "changes": ["something"],
            "files": self.entries if self.entries is not None else own,
        }

    @property
    def address(self):
        return f"http://127.0.0.1:{self.server.server_port}/feed"


@pytest.fixture
def feed():
    made = Feed()
    made.files = {"luts/a.cube": b"one" * 1000, "stills/001 shelf.png": b"two" * 5000}
    yield made
    made.server.shutdown()


def pull(feed, folder, capsys, *more):
    status = main(["pull", feed.address, str(folder), "--json", *more])
    said = capsys.readouterr()
    return status, (json.loads(said.out) if said.out else {}), said.err


def test_first_everything_then_nothing(feed, tmp_path, capsys):
    status, said, _ = pull(feed, tmp_path / "in", capsys)
    assert (status, said["delivery"], sorted(said["new"])) == (0, 1, sorted(feed.files))
    assert {p: (tmp_path / "in" / p).read_bytes() for p in feed.files} == feed.files
    feed.asked.clear()
    assert pull(feed, tmp_path / "in", capsys)[1]["changed"] == 0
    assert [path for path, _ in feed.asked] == ["/feed"]


def test_what_is_newer_and_what_is_gone(feed, tmp_path, capsys):
    pull(feed, tmp_path, capsys)
    feed.delivery = 2
    feed.files = {"luts/a.cube": b"newer"}
    _, said, _ = pull(feed, tmp_path, capsys)
    assert (said["newer"], said["removed"], said["delivery"]) == (
        ["luts/a.cube"],
        ["stills/001 shelf.png"],
        2,
    )
    assert (tmp_path / "luts/a.cube").read_bytes() == b"newer"
    assert not (tmp_path / "stills").exists()


def test_what_somebody_changed_by_hand_is_kept(feed, tmp_path, capsys):
    pull(feed, tmp_path, capsys)
    (tmp_path / "luts/a.cube").write_bytes(b"by hand")
    (tmp_path / "stills/001 shelf.png").write_bytes(b"painted on")
    feed.files = {"luts/a.cube": b"newer"}
    _, said, _ = pull(feed, tmp_path, capsys)
    assert (tmp_path / "luts/a kept.cube").read_bytes() == b"by hand"
    assert (tmp_path / "luts/a.cube").read_bytes() == b"newer"
    assert (tmp_path / "stills/001 shelf.png").read_bytes() == b"painted on"
    assert sorted(said["kept"]) == ["luts/a kept.cube", "stills/001 shelf.png"]


def test_with_keep_nothing_is_removed(feed, tmp_path, capsys):
    pull(feed, tmp_path, capsys)
    feed.files = {"luts/a.cube": b"one" * 1000}
    pull(feed, tmp_path, capsys, "--keep")
    assert (tmp_path / "stills/001 shelf.png").exists()


def test_a_file_that_is_missing_is_fetched_though_the_feed_is_the_same(feed, tmp_path, capsys):
    pull(feed, tmp_path, capsys)
    (tmp_path / "luts/a.cube").unlink()
    assert pull(feed, tmp_path, capsys)[1]["new"] == ["luts/a.cube"]


def test_what_broke_off_goes_on(feed, tmp_path, capsys):
    feed.broken = 1
    assert pull(feed, tmp_path, capsys)[0] == 0
    assert any(r for _, r in feed.asked)
    assert (tmp_path / "stills/001 shelf.png").read_bytes() == feed.files["stills/001 shelf.png"]


def test_a_file_with_another_checksum_is_not_taken(feed, tmp_path, capsys):
    feed.lies = True
    status, _, said = pull(feed, tmp_path, capsys)
    assert status == 1
    assert "checksum" in said
    assert not (tmp_path / "luts/a.cube").exists()
    assert not (tmp_path / ".saucer-feed.json").exists()


@pytest.mark.parametrize(
    "path", ["../out.txt", "/etc/passwd", "a/../../b", "C:/x", "a\\b", ".hidden", ".saucer-feed.json", ""]
)
def test_nothing_lands_outside_the_folder(feed, tmp_path, capsys, path):
    sha = hashlib.sha256(b"x").hexdigest()
    feed.entries = [{"path": path, "sha256": sha, "bytes": 1, "address": f"/files/{sha}"}]
    status, _, said = pull(feed, tmp_path / "in", capsys)
    assert status == 1
    assert "nothing was fetched" in said
    assert [p for p in tmp_path.rglob("*") if p.is_file()] == []


def test_nothing_is_fetched_from_elsewhere_or_twice(feed, tmp_path, capsys):
    sha = hashlib.sha256(b"x").hexdigest()
    feed.entries = [{"path": "a", "sha256": sha, "bytes": 1, "address": "http://elsewhere.invalid/x"}]
    assert pull(feed, tmp_path, capsys)[0] == 1
    feed.entries = [{"path": p, "sha256": sha, "bytes": 1, "address": f"/files/{sha}"} for p in ("a", "A")]
    assert "twice" in pull(feed, tmp_path, capsys)[2]


def test_a_link_out_of_the_folder_is_not_followed(feed, tmp_path, capsys):
    (tmp_path / "in").mkdir()
    (tmp_path / "elsewhere").mkdir()
    (tmp_path / "in" / "luts").symlink_to(tmp_path / "elsewhere")
    assert pull(feed, tmp_path / "in", capsys)[0] == 1
    assert list((tmp_path / "elsewhere").iterdir()) == []


@pytest.mark.parametrize(
    ("status", "said"), [(401, "taken back"), (404, "nothing is delivered yet"), (500, "answers 500")]
)
def test_a_feed_that_does_not_answer_says_why_without_its_token(feed, tmp_path, capsys, status, said):
    feed.status = status
    code, _, told = pull(feed, tmp_path, capsys)
    assert code == 1
    assert said in told
    assert "/feed" not in told


def test_what_is_no_feed(tmp_path, capsys):
    assert main(["pull", "ftp://x/y", str(tmp_path)]) == 1
    assert "begins with http" in capsys.readouterr().err
    assert main(["pull", "http://127.0.0.1:9/feed", str(tmp_path)]) == 1
    assert "cannot be reached" in capsys.readouterr().err
