"""Packages from Debian: what is needed, and how to get it."""

import importlib.util
import os
import shutil
import sys
from pathlib import Path

from .say import Stop, run, say

POSTGRES = "/usr/lib/postgresql"
#: The fonts of contact sheets that are exported as PDF and PNG, by package: together they write names in any
#: script.
FONTS = {
    "fonts-dejavu-core": Path("/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf"),
    "fonts-droid-fallback": Path("/usr/share/fonts/truetype/droid/DroidSansFallbackFull.ttf"),
    "fonts-unifont": Path("/usr/share/fonts/opentype/unifont/unifont.otf"),
}


def postgres_bin() -> Path | None:
    """The folder of the newest PostgreSQL server, if one is installed."""
    found = sorted(Path(POSTGRES).glob("*/bin/postgres"), key=lambda p: int(p.parts[-3]))
    return found[-1].parent if found else None


def chromium() -> str | None:
    """Debian's browser."""
    return shutil.which("chromium")


def _missing(browser: bool, database: bool) -> list[str]:
    packages = []
    if importlib.util.find_spec("ensurepip") is None:
        packages.append("python3-venv")
    if database and postgres_bin() is None:
        packages.append("postgresql")
    if database:
        packages += [package for package, font in FONTS.items() if not font.is_file()]
    if browser and chromium() is None:
        packages.append("chromium")
    return packages


def ensure(*, browser: bool = False, database: bool = True) -> None:
    """Installs what is missing, as root or through sudo; otherwise says what to ask for."""
    packages = _missing(browser, database)
    if not packages:
        return
    command = ["apt-get", "install", "-y", "--no-install-recommends", *packages]
    if os.geteuid() != 0:
        sudo = shutil.which("sudo")
        can = False
        if sudo:
            try:
                run([sudo, "-n", "true"])
                can = True
            except Stop:
                can = sys.stdin.isatty()
        if not can or sudo is None:
            raise Stop(
                "these Debian packages are missing: " + " ".join(packages) + "\n"
                "Ask whoever runs this machine for: apt-get install " + " ".join(packages)
            )
        command = [sudo, *command]
    say("installing from Debian: " + " ".join(packages))
    prefix = command[: command.index("apt-get")]
    quiet = {"DEBIAN_FRONTEND": "noninteractive"}
    run([*prefix, "apt-get", "update"], env=quiet)
    run(command, env=quiet)
    still = _missing(browser, database)
    if still:
        raise Stop("still missing after the installation: " + " ".join(still))
