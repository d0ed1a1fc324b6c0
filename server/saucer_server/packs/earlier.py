"""The looks of a pack that were read so far, to find twins among them."""

import numpy as np
from saucer_core.arrays import F32
from saucer_core.readings.likeness import TWIN_LARGEST, TWIN_MEAN, apart, behaviour, nearest

from .models import PackItem
from .values import Twin


def colours_of(item: PackItem) -> F32 | None:
    """What an item makes of the core's fixed colours; ``None`` where that cannot be computed."""
    return (
        None
        if item.colours is None
        else np.frombuffer(bytes(item.colours), "<f4").reshape(-1, 3).astype(np.float32)
    )


class Earlier:
    """The looks of a pack so far that are no twins themselves, to hold the next one against: twins of twins
    point to the first."""

    def __init__(self, pack_id: int) -> None:
        found = (
            PackItem.objects.filter(pack_id=pack_id, colours__isnull=False, twin__isnull=True)
            .exclude(kind="preset")
            .order_by("id")
        )
        self._rows: list[tuple[int, str, str]] = []
        self._colours = np.zeros((64, len(behaviour(None)), 3), np.float32)
        for item in found:
            self.add(item)

    def add(self, item: PackItem) -> None:
        """From here on others are held against it as well."""
        colours = colours_of(item)
        if colours is None:
            return
        if len(self._rows) == len(self._colours):
            self._colours = np.concatenate([self._colours, np.zeros_like(self._colours)])
        self._colours[len(self._rows)] = colours
        self._rows.append((item.pk, item.name, item.table))

    def twin_of(self, item: PackItem, colours: F32) -> Twin | None:
        """The one that an eye cannot tell from it."""
        so_far = self._colours[: len(self._rows)]
        for k, far in nearest(colours, so_far, 3):
            key, name, table = self._rows[k]
            if key != item.pk and far <= TWIN_MEAN and apart(colours, so_far[k])[1] <= TWIN_LARGEST:
                same = bool(item.table) and table == item.table
                return Twin(item=key, name=name, apart=far, same=same)
        return None
