"""What the front does by itself: kept pictures without a web process for whoever has a pass, compressed
scripts, addresses of its own."""

import gzip
import json
import re
import socket
import time
import urllib.error
import urllib.request

from PIL import Image


def ask(address, cookies=None, **headers):
    """Status, headers and body of an answer; cookies by name."""
    said = "; ".join(f"{k}={v}" for k, v in (cookies or {}).items())
    request = urllib.request.Request(address, headers={**({"Cookie": said} if said else {}), **headers})
    try:
        with urllib.request.urlopen(request, timeout=30) as answer:
            return answer.status, answer.headers, answer.read()
    except urllib.error.HTTPError as error:
        return error.code, error.headers, error.read()


def test_a_kept_picture_needs_a_pass_and_no_web_process(enter, site):
    page = enter("ines", "/catalogue")
    page.request.get(f"{site}/api/session")
    cookies = {c["name"]: c["value"] for c in page.context.cookies()}
    assert "saucer_pictures" in cookies
    # A width that no screen asks for, at the address of what is there now: only that is kept.
    revision = page.request.get(f"{site}/api/looks/1/history").json()[-1]["revision"]
    frame = next(f for f in page.request.get(f"{site}/api/frames").json() if f["id"] == 1)
    version = revision["digest"][:8] + frame["version"]
    still = f"{site}/api/revisions/{revision['id']}/still?frame=1&width=67&v={version}"
    another = ask(still.replace(version, "another"), cookies)
    assert (another[0], another[1]["X-Kept"], another[1]["Cache-Control"]) == (
        200,
        "MISS",
        "private, no-store",
    )
    assert ask(still.replace(version, "another"), cookies)[1]["X-Kept"] == "MISS"
    first = ask(still, cookies)
    again = ask(still, {"saucer_pictures": cookies["saucer_pictures"]})
    assert (first[0], first[1]["X-Kept"]) == (200, "MISS")
    assert (again[0], again[1]["X-Kept"]) == (200, "HIT")
    assert again[2] == first[2]
    assert "X-Accel-Expires" not in again[1]
    # The picture lies there; without a good pass it is asked for like anything else.
    sum_, _, until = cookies["saucer_pictures"].partition(".")
    for none in (
        {},
        {"saucer_pictures": f"{sum_}.{int(until) + 1}"},
        {"saucer_pictures": f"{'B' if sum_[0] == 'A' else 'A'}{sum_[1:]}.{until}"},
        {"saucer_pictures": "x"},
    ):
        status, headers, body = ask(still, none)
        assert status == 401, none
        assert json.loads(body)["message"] == "Sign in to go on."
        assert headers["X-Kept"] == "BYPASS"


def test_pictures_of_a_removed_frame_go_out_of_the_store(enter, site, tmp_path):
    page = enter("ines", "/catalogue")
    page.request.get(f"{site}/api/session")
    cookies = {c["name"]: c["value"] for c in page.context.cookies()}
    path = tmp_path / "own.png"
    Image.new("RGB", (80, 60), (120, 40, 200)).save(path)
    made = page.request.post(
        f"{site}/api/frames",
        headers={"X-CSRFToken": cookies["csrftoken"]},
        multipart={
            "name": "Own",
            "file": {"name": "own.png", "mimeType": "image/png", "buffer": path.read_bytes()},
        },
    ).json()
    revision = page.request.get(f"{site}/api/looks/1/history").json()[-1]["revision"]
    addresses = [
        f"{site}/api/frames/{made['id']}/still?width=64&v={made['version']}",
        f"{site}/api/revisions/{revision['id']}/still?frame={made['id']}&width=64&v={revision['digest'][:8]}{made['version']}",
    ]
    for address in addresses:
        assert [ask(address, cookies)[1]["X-Kept"] for _ in range(2)] == ["MISS", "HIT"], address
    gone = page.request.delete(
        f"{site}/api/frames/{made['id']}", headers={"X-CSRFToken": cookies["csrftoken"]}
    )
    assert gone.status == 204, gone.text()
    for address in addresses:
        assert ask(address, cookies)[0] == 404, address


def test_scripts_and_answers_are_compressed(site):
    _, _, page = ask(site)
    script = re.search(rb'src="(/assets/[^"]+\.js)"', page)[1].decode()
    plain, packed = ask(site + script), ask(site + script, **{"Accept-Encoding": "gzip"})
    assert packed[1]["Content-Encoding"] == "gzip"
    assert "immutable" in packed[1]["Cache-Control"]
    assert gzip.decompress(packed[2]) == plain[2]
    assert len(packed[2]) < len(plain[2]) / 2
    told = ask(f"{site}/api/openapi.json", **{"Accept-Encoding": "gzip"})
    assert told[1]["Content-Encoding"] == "gzip"


def test_what_others_claim_of_where_they_come_from_is_not_believed(site):
    """Guesses count by the address that the front sees, whatever the request says."""
    with urllib.request.urlopen(f"{site}/api/session", timeout=30) as answer:
        token = re.search(r"csrftoken=([^;]+)", answer.headers["Set-Cookie"])[1]
    statuses = []
    for k in range(8):
        body = json.dumps({"username": "nobody of the front", "password": f"wrong {k}"}).encode()
        headers = {
            "Content-Type": "application/json",
            "X-CSRFToken": token,
            "Cookie": f"csrftoken={token}",
            "X-Real-IP": f"10.0.0.{k}",
            "X-Forwarded-For": f"10.0.0.{k}",
        }
        try:
            urllib.request.urlopen(urllib.request.Request(f"{site}/api/sign-in", body, headers), timeout=30)
        except urllib.error.HTTPError as error:
            statuses.append(error.code)
    assert statuses[:5] == [401] * 5
    assert 429 in statuses


def begin(site, path, length, *, sent=4 << 20, **headers):
    """Announces a body of that length, sends a part of it, and reads what is answered: status and message.
    The rest never comes."""
    host, port = site.removeprefix("http://").split(":")
    said = {"Host": f"{host}:{port}", "Content-Type": "multipart/form-data; boundary=x", **headers}
    said |= {"Transfer-Encoding": "chunked"} if length is None else {"Content-Length": str(length)}
    with socket.create_connection((host, int(port)), timeout=20) as s:
        s.sendall(
            (
                f"POST {path} HTTP/1.1\r\n" + "".join(f"{k}: {v}\r\n" for k, v in said.items()) + "\r\n"
            ).encode()
        )
        try:
            for _ in range(sent // 65536):
                s.sendall(b"x" * 65536)
        except OSError:
            pass
        heard = b""
        try:
            while not _whole(heard) and (more := s.recv(65536)):
                heard += more
        except OSError:
            return 0, ""
    head, _, body = heard.decode().partition("\r\n\r\n")
    if not head:
        return 0, ""
    return int(head.split()[1]), json.loads(body)["message"] if body else ""


def _whole(said):
    """Whether an answer has come with all of its body."""
    head, there, body = said.partition(b"\r\n\r\n")
    length = re.search(rb"content-length: (\d+)", head.lower())
    return bool(there) and (length is None or len(body) >= int(length[1]))


def stored(data):
    """Bytes of bodies that the front and the web processes have stored."""
    return sum(
        f.stat().st_size
        for name in ("front/body", "arriving")
        for f in (data / name).rglob("*")
        if f.is_file()
    )


def test_a_strangers_body_is_not_stored(site, data):
    for path in ("/api/sign-in", "/api/frames", "/", "/api/revisions/1/still", "/metrics"):
        status, words = begin(site, path, 400 << 20)
        assert status in (0, 401, 413), path
        assert words or not status
        assert stored(data) == 0, path
    assert begin(site, "/api/frames", 400 << 20, Authorization="Bearer saucer_made-up")[0] in (0, 401)
    assert begin(site, "/api/frames", None, sent=0) == (401, "Sign in to go on.")
    assert begin(site, "/api/frames", 99_000_000_000, sent=0) == (413, "That is more than may be sent here.")
    assert begin(site, "/-/body", 10, sent=0) == (404, "There is nothing at this address.")
    assert stored(data) == 0


def test_large_bodies_go_where_files_are_taken(enter, site, data):
    page = enter("ines", "/catalogue")
    cookies = {c["name"]: c["value"] for c in page.context.cookies()}
    mine = {"Cookie": "; ".join(f"{k}={v}" for k, v in cookies.items()), "X-CSRFToken": cookies["csrftoken"]}
    assert begin(site, "/api/looks", 9 << 20, sent=0, **mine) == (
        413,
        "That is more than a request without a file may hold (8 MiB).",
    )
    assert begin(site, "/api/frames", 5000 << 20, sent=0, **mine)[0] == 413
    assert begin(site, "/api/frames", None, sent=0, **mine)[0] == 411
    assert begin(site, "/api/frames", 400 << 30, sent=0, **mine)[0] == 413
    assert stored(data) == 0
    # One that is taken, and is no picture: the words are the rule's, and nothing of it stays.
    answer = page.request.post(
        f"{site}/api/frames",
        headers={"X-CSRFToken": cookies["csrftoken"]},
        multipart={
            "name": "Large",
            "file": {"name": "large.png", "mimeType": "image/png", "buffer": b"\x89PNG" + bytes(9 << 20)},
        },
    )
    assert answer.status == 422, answer.text()
    # It goes when the answer is sent, not before.
    until = time.monotonic() + 20
    while stored(data) and time.monotonic() < until:
        time.sleep(0.1)
    assert stored(data) == 0


def test_what_the_front_says_no_to_is_said_in_words(site):
    for path, headers, status in (
        ("/assets/none.js", {}, 404),
        ("/assets/", {}, 404),
        ("/api/session", {"X-Long": "a" * 9000}, 414),
        ("/api/session?" + "a" * 7900, {}, 200),
        ("/api/session?" + "a" * 9000, {}, 414),
    ):
        answer = ask(site + path, **headers)
        assert answer[0] == status, path
        if status != 200:
            assert answer[1]["Content-Type"] == "application/json"
            assert len(json.loads(answer[2])["message"]) > 10
