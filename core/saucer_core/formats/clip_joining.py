"""Lengths of a clip that were encoded by themselves, put one after the other."""

from collections.abc import Iterator, Sequence
from fractions import Fraction
from pathlib import Path
from typing import Any

import av


def _packets(part: Path) -> Iterator[Any]:
    with av.open(str(part)) as container:
        yield from (packet for packet in container.demux(video=0) if packet.pts is not None)


def _shown(parts: list[Path]) -> list[int]:
    """For each encoded picture, in the order of decoding, the number of the frame that it shows.

    A length keeps its times only from its own beginning on, and may shift them; their order within it holds.
    """
    numbers: list[int] = []
    for part in parts:
        held = [packet.pts for packet in _packets(part)]
        place = {pts: k for k, pts in enumerate(sorted(held), len(numbers))}
        numbers += [place[pts] for pts in held]
    return numbers


def pictures_in_time(parts: list[Path], stream: Any, stamps: Sequence[int], base: Fraction) -> Iterator[Any]:
    """The encoded pictures in the order they are decoded in, each shown when its frame of the source was.

    stamps: of all frames, and the end of the last. Lengths do not keep the times of decoding: those are given
    here, in the same order and early enough for every picture.
    """
    times = [stamp - stamps[0] for stamp in stamps]
    numbers = _shown(parts)
    early = max((times[k] - times[number] for k, number in enumerate(numbers)), default=0)
    packets = (packet for part in parts for packet in _packets(part))
    for k, (packet, number) in enumerate(zip(packets, numbers, strict=True)):
        packet.pts, packet.dts, packet.duration = (
            times[number],
            times[k] - early,
            times[number + 1] - times[number],
        )
        packet.time_base, packet.stream = base, stream
        yield packet
