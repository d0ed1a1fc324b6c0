"""A Saucer of its own to measure: with demo data, on a database of its own, taken away afterwards."""

import shutil
import tempfile
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from pathlib import Path

from launch.postgres import free_port
from launch.serving import WEB_PROCESSES, Application

from .amount import LITTLE, much

#: Looks of the catalogue's benchmark.
LOOKS = much(10_000, 16)
#: Where it is only to be seen that benchmarks run, all of them ask one.
_shared: list[tuple[Application, str]] = []
held = ExitStack()


@contextmanager
def instance(looks: int = 0, processes: int | None = None) -> Iterator[tuple[Application, str]]:
    """A running Saucer and its address. looks: made up beside those of the demo; processes: of the web, as
    many as usual by default."""
    if not LITTLE:
        with _started(looks, processes) as own:
            yield own
        return
    if not _shared:
        _shared.append(held.enter_context(_started(LOOKS, None)))
    yield _shared[0]


@contextmanager
def _started(looks: int, processes: int | None) -> Iterator[tuple[Application, str]]:
    folder = Path(tempfile.mkdtemp(prefix="saucer-measure-"))
    # A place that PostgreSQL's own user may look into as well.
    folder.chmod(0o711)
    application = Application(folder, "127.0.0.1", free_port(), processes=processes or WEB_PROCESSES)
    try:
        yield application, application.start(looks=looks)
    finally:
        application.stop()
        shutil.rmtree(folder, ignore_errors=True)
