"""``render``: a delivery's looks and trims on the footage where it lies."""

from pathlib import Path

import click

from ..formats.clip_kinds import CLIP_KINDS
from ..formats.picture_kinds import WRITTEN, depth_for
from ..rendering.room import Room
from ..rendering.shot import Wanted
from .shared import DEPTH, ENCODING, FOUND_WANTING, PATH, Answer, answering, refuse, told

#: Frames that are rendered more at each end (common practice: half a second).
HANDLES = 12


@click.command("render")
@click.option(
    "--from", "where", required=True, metavar="FEED", help="A feed's address, or a delivery's folder."
)
@click.option("--footage", type=PATH, required=True, metavar="FOLDER", help="Where the footage lies.")
@click.option("--out", type=PATH, required=True, metavar="FOLDER", help="Where what is made goes.")
@click.option("--handles", type=click.IntRange(0, 10_000), default=HANDLES, help="Frames more at each end.")
@click.option("--clip", type=click.Choice(list(CLIP_KINDS)), default="prores", help="Kind of clip to write.")
@click.option(
    "--picture",
    type=click.Choice([suffix.removeprefix(".") for suffix in WRITTEN]),
    help="Kind of picture to write; else that of the footage.",
)
@click.option("--depth", type=DEPTH, help="Of pictures; else that of the footage.")
@click.option("--encoding", type=ENCODING, help="To go out in; else the first that the delivery has.")
@click.option("--without-finish", is_flag=True, help="Leave the finishes of the looks out.")
@click.option("--verify", is_flag=True, help="Compare what is there by its checksums, not by size and time.")
@answering
def command(
    where: str,
    footage: Path,
    out: Path,
    handles: int,
    clip: str,
    picture: str | None,
    depth: str | None,
    encoding: str | None,
    without_finish: bool,
    verify: bool,
) -> Answer:
    """Put the trims and looks of a project's newest delivery on its footage, which need not be sent.

    Each shot's source is found by name, reel and timecode; the frames that the cut uses are rendered, with
    handles. What is there already is not made again; what was stopped goes on. Several of these commands on
    one folder share the work, a shot each. Footage that is not found is said, with the reason.
    """
    if picture is None:
        refuse(
            [("--depth", depth is not None)], "not every kind of picture holds it. Say which with --picture"
        )
    else:
        depth_for(f"picture.{picture}", depth)
    wanted = Wanted(
        CLIP_KINDS[clip], f".{picture}" if picture else "", depth, handles, not without_finish, encoding or ""
    )
    room = Room(where, footage, out, wanted, verify, told)
    found = room.run()
    told("")
    contents = room.package.contents
    answer: Answer = {
        "folder": str(out),
        "project": contents.project,
        "delivery": contents.delivery,
        "made": found.made,
        "there": found.there,
    }
    more = {
        "not found": found.not_found,
        "failed": found.failed,
        "doubts": found.doubts,
        "not in the delivery any more": found.left,
        "not read": list(room.footage.unread),
    }
    wanting = {"status": FOUND_WANTING} if found.not_found or found.failed else {}
    return {**answer, **{key: said for key, said in more.items() if said}, **wanting}
