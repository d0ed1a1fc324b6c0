"""The commands under one name, and what the exit status says."""

import os
import signal
import sys
import threading
from pathlib import Path
from types import FrameType

import click

from ..errors import CoreError
from . import (
    apply,
    bake,
    bring_in,
    capture,
    carrier,
    compare,
    convert,
    cuts,
    inspect,
    pair,
    pull,
    render,
    schema,
    unbake,
)

EPILOG = (
    "Exit status: 0 done; 1 a file or look that cannot be used; 2 a wrong call; 3 something was found "
    "wanting (capture refuses, compare lies beyond its limit, bring-in cannot read a file, render misses "
    "footage, a look explains little of a pair); 130 and 143 stopped by Ctrl-C or a signal to end, with "
    "nothing half-written left behind."
)


@click.group(
    epilog=EPILOG,
    context_settings={"help_option_names": ["-h", "--help"], "show_default": True, "max_content_width": 110},
)
def commands() -> None:
    """Looks and LUTs at the command line.

    A LOOK is a recipe (.saucer.json); where a command takes a LUT too, any table file that Saucer reads.
    """


for _module in (
    bake,
    apply,
    inspect,
    bring_in,
    unbake,
    pair,
    convert,
    carrier,
    capture,
    compare,
    cuts,
    pull,
    render,
    schema,
):
    commands.add_command(_module.command)


class _Ended(BaseException):
    """A signal to end came."""


def _end(number: int, frame: FrameType | None) -> None:
    raise _Ended


def main(argv: list[str] | None = None) -> int:
    """Runs one command; gives the exit status."""
    if threading.current_thread() is threading.main_thread():
        # A signal becomes an exception, so that half-written files are removed on the way out.
        signal.signal(signal.SIGTERM, _end)
    try:
        own = Path(sys.argv[0]).name
        status = commands.main(
            argv, prog_name=own if own == "saucer-core" else "python -m saucer_core", standalone_mode=False
        )
        sys.stdout.flush()
        return int(status or 0)
    except click.ClickException as error:
        error.show()
        return error.exit_code
    except (click.Abort, KeyboardInterrupt):
        print("saucer: stopped", file=sys.stderr)
        return 130
    except _Ended:
        return 143
    except (BrokenPipeError, SystemExit):
        # The program that read our output has closed it (click raises SystemExit then), so nobody is left to
        # tell.
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
        return 141
    except (CoreError, ValueError, OSError) as error:
        print(f"saucer: {error}", file=sys.stderr)
        return 1
