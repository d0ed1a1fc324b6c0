"""The commands of ``./saucer``."""

import argparse
import errno
import signal
import sys
from pathlib import Path
from types import FrameType

from . import debian, environment
from .places import ROOT, python
from .say import Stop, passes, say

DATA = ROOT / ".saucer"


def _start(args: argparse.Namespace) -> int:
    import os

    from .serving import Application

    debian.ensure(database="DATABASE_URL" not in os.environ)
    environment.virtual_environment(tests=False)
    vite = environment.web_packages() if args.command == "dev" else None
    if vite is None:
        environment.front_end()
    application = Application(args.data.resolve(), args.host, args.port, vite)
    try:
        address = application.start(demo=not args.empty, looks=args.looks)
        say(f"Saucer runs at {address}  (Ctrl-C ends it)")
        if not args.empty:
            print(
                "\n  demo sign-ins, all with the password  slip-and-glaze\n"
                "    ines, tomas   look designers\n    vera          editor\n    odile         lead\n",
                flush=True,
            )
        return application.wait()
    finally:
        application.stop()


def _stop(args: argparse.Namespace) -> int:
    from .serving import stop_running

    return stop_running(args.data.resolve())


def _lead(args: argparse.Namespace) -> int:
    import os
    import subprocess

    from .backup import Database
    from .serving import settings

    data = args.data.resolve()
    if "DATABASE_URL" not in os.environ and not (data / "prepared").is_file():
        raise Stop(f"there is no Saucer in {data} yet; start it once with ./saucer start --empty")
    with Database(data) as address:
        env = {**os.environ, **settings(data, address, "127.0.0.1", 0)}
        words = [
            python(),
            ROOT / "server" / "manage.py",
            "lead",
            args.name,
            *(["--called", args.called] if args.called else []),
        ]
        return subprocess.run([str(w) for w in words], env=env).returncode


def _build(args: argparse.Namespace) -> int:
    environment.virtual_environment(tests=False)
    environment.front_end()
    say("built: the virtual environment and the front end")
    return 0


def _front(args: argparse.Namespace) -> int:
    import os

    from . import front

    nginx = front.program()
    if nginx is None:
        raise Stop("nginx cannot be had here; install Debian's nginx")
    secret = os.environ.get("SAUCER_SECRET_KEY")
    if not secret:
        raise Stop("name the key of the installation in SAUCER_SECRET_KEY, the same as for its web processes")
    home = args.data.resolve() / "front"
    written = front.write(
        home, listen=f"{args.host}:{args.port}", behind=args.behind, secret=front.pass_secret(secret)
    )
    os.execv(nginx, [str(nginx), "-p", str(home), "-c", str(written), "-e", "stderr"])


def _backup(args: argparse.Namespace) -> int:
    from .backup import backup

    backup(args.data.resolve(), args.file.resolve())
    return 0


def _restore(args: argparse.Namespace) -> int:
    import os

    from .backup import restore

    debian.ensure(database="DATABASE_URL" not in os.environ)
    environment.virtual_environment(tests=False)
    restore(args.file.resolve(), args.data.resolve())
    return 0


def _test(args: argparse.Namespace) -> int:
    from .testing import storm, test

    return storm() if args.storm else test(args.words)


def _check(args: argparse.Namespace) -> int:
    from .testing import check

    return check()


def _measure(args: argparse.Namespace) -> int:
    debian.ensure(browser=True)
    environment.virtual_environment(tests=True)
    environment.front_end()
    return 0 if passes("measuring", [python(), "-m", "benchmarks", *args.words], cwd=ROOT) else 1


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="./saucer", description="Sets up, runs and checks Saucer.")
    commands = parser.add_subparsers(dest="command", required=True)
    for name, text in (
        ("start", "set up and run, with demo data"),
        ("dev", "the same, for working on it: page and server follow changed sources"),
    ):
        sub = commands.add_parser(name, help=text)
        sub.add_argument("--host", default="127.0.0.1")
        sub.add_argument("--port", type=int, default=8000)
        sub.add_argument("--empty", action="store_true", help="without demo data")
        sub.add_argument(
            "--looks",
            type=int,
            default=0,
            metavar="COUNT",
            help="add made-up looks to the demo data until there are so many",
        )
        sub.add_argument("--data", type=Path, default=DATA, help="where database and files are kept")
        sub.set_defaults(does=_start)
    sub = commands.add_parser("stop", help="end a running Saucer")
    sub.add_argument("--data", type=Path, default=DATA)
    sub.set_defaults(does=_stop)
    sub = commands.add_parser(
        "lead", help="make the first lead, or give one a new password, which is asked for"
    )
    sub.add_argument("name", help="the name to sign in with")
    sub.add_argument("--called", default="", help="the name others see")
    sub.add_argument("--data", type=Path, default=DATA)
    sub.set_defaults(does=_lead)
    for name, does, text in (
        ("backup", _backup, "write database and files into one archive, also while Saucer runs"),
        ("restore", _restore, "make an installation from such an archive"),
    ):
        sub = commands.add_parser(name, help=text)
        sub.add_argument("file", type=Path, help="the archive, a .tar")
        sub.add_argument("--data", type=Path, default=DATA)
        sub.set_defaults(does=does)
    sub = commands.add_parser("build", help="only make what running needs: virtual environment and front end")
    sub.set_defaults(does=_build)
    sub = commands.add_parser(
        "front", help="run the front alone, before web processes that run by themselves"
    )
    sub.add_argument("--host", default="127.0.0.1")
    sub.add_argument("--port", type=int, default=8000)
    sub.add_argument(
        "--behind", type=int, required=True, help="the port of the web processes on this machine"
    )
    sub.add_argument("--data", type=Path, default=DATA, help="where it keeps bodies and pictures")
    sub.set_defaults(does=_front)
    sub = commands.add_parser("check", help="only style, layout, types and contracts")
    sub.set_defaults(does=_check)
    for name, does, text in (
        ("test", _test, "set up and run all checks"),
        ("measure", _measure, "print speeds as ratios"),
    ):
        one = commands.add_parser(name, help=text)
        one.set_defaults(does=does)
        one.add_argument("words", nargs="*", help="only these (handed on)")
        if name == "test":
            one.add_argument(
                "--storm",
                action="store_true",
                help="long runs: every pair of writes at once, parts killed for minutes",
            )
    return parser


def _leave(number: int, frame: FrameType | None) -> None:
    raise KeyboardInterrupt


def main(words: list[str]) -> int:
    """Runs a command; 0 done, 1 failed. A signal to end does what Ctrl-C does: nothing that was started is
    left behind."""
    # The terminal closing is one too.
    for number in (signal.SIGTERM, signal.SIGHUP):
        signal.signal(number, _leave)
    args, rest = _parser().parse_known_args(words)
    if rest:
        if not hasattr(args, "words"):
            _parser().error(f"unknown: {' '.join(rest)}")
        args.words += rest
    try:
        code: int = args.does(args)
        return code
    except Stop as stop:
        print(f"saucer: {stop}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        return 130
    except OSError as error:
        if error.errno not in (errno.ENOSPC, errno.EDQUOT):
            raise
        print("saucer: the disk is full. Make room, then do it again.", file=sys.stderr)
        return 1
