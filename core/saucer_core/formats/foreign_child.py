"""Reads one rarer LUT file through OpenColorIO, in a process of its own, and writes it as a Common LUT Format
file.

Run by ``foreign`` as ``python -I foreign_child.py TABLE RESULT``: alone, with nothing of Saucer, under limits
of time, memory and output that it sets itself before it looks at the file. A reader that hangs or eats memory
ends here and nowhere else.
"""

import os
import resource
import sys
from typing import Any

#: Seconds of computing that a small file may cost.
SECONDS = 1
#: Bytes of a large file for which it gets one second more.
BYTES_A_SECOND = 4 * 2**20
#: Bytes of address space for a small file.
MEMORY = 160 * 2**20
#: Bytes of address space more for each byte of the file.
MEMORY_A_BYTE = 12
OUTPUT = 96 * 2**20
CLF = "Academy/ASC Common LUT Format"


def _said(ocio: Any, config: Any, processor: Any) -> str:
    """What a file does, as Common LUT Format; with inverse curves, which that has no room for, as the form of
    it that has (``.ctf``)."""
    group = processor.createGroupTransform()
    try:
        return str(group.write(formatName=CLF, config=config))
    except ocio.Exception:
        text = str(group.write(formatName="Color Transform Format", config=config))
    if "<InverseLUT3D" not in text:
        return text
    # Grids that are to be read backwards are turned over, as OpenColorIO itself applies them.
    turned = processor.getOptimizedProcessor(ocio.OPTIMIZATION_LUT_INV_FAST).createGroupTransform()
    return str(turned.write(formatName=CLF, config=config))


def main(table: str, result: str) -> int:
    """Exit status 0 where the result is written; 1 with the reason on standard error."""
    size = os.path.getsize(table)
    seconds, memory = SECONDS + size // BYTES_A_SECOND, MEMORY + size * MEMORY_A_BYTE
    for limit, value in (
        (resource.RLIMIT_CPU, seconds),
        (resource.RLIMIT_AS, memory),
        (resource.RLIMIT_FSIZE, OUTPUT),
    ):
        resource.setrlimit(limit, (value, value))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    os.environ["OCIO_LOGGING_LEVEL"] = "none"
    import PyOpenColorIO as ocio

    config = ocio.Config.CreateRaw()
    try:
        asked = ocio.FileTransform(table, interpolation=ocio.INTERP_TETRAHEDRAL)
        processor = config.getProcessor(asked)
        text = _said(ocio, config, processor)
    except ocio.Exception as error:
        print(" ".join(str(error).split()), file=sys.stderr)
        return 1
    except MemoryError:
        print("it needs more memory than a LUT file should", file=sys.stderr)
        return 1
    with open(result, "w", encoding="utf-8") as out:
        out.write(text)
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1], sys.argv[2]))
