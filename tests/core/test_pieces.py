"""Work in pieces: all of it is done, by however many threads; and none is begun that nobody wants any
more."""

import threading

import numpy as np
import pytest
from saucer_core.arrays import TILE, by_tiles, in_pieces, wanted
from saucer_core.errors import Abandoned


@pytest.mark.parametrize("count", [1, TILE - 1, TILE, TILE + 1, 7 * TILE + 3])
def test_every_item_is_in_one_piece(count):
    seen = np.zeros(count, int)

    def work(first, last):
        seen[first:last] += 1

    in_pieces(work, count)
    assert (seen == 1).all()


def test_work_stops_between_two_pieces_once_nobody_wants_it():
    asked = iter([True, True, False])
    begun = []
    mark = wanted.set(lambda: next(asked, False))
    try:
        with pytest.raises(Abandoned):
            in_pieces(lambda first, last: begun.append(first), 64 * TILE)
        assert 0 < len(begun) <= 64
        with pytest.raises(Abandoned):
            by_tiles(lambda tile: begun.append(-1), np.zeros((8, 3), np.float32))
        assert -1 not in begun
    finally:
        wanted.reset(mark)


def test_two_at_once_get_the_same_pieces_and_one_of_them_hands_none_over():
    first_is_in, second_is_done = threading.Event(), threading.Event()
    pieces: dict[str, set[tuple[int, int]]] = {"first": set(), "second": set()}
    threads: dict[str, set[int]] = {"first": set(), "second": set()}

    def work(name):
        def piece(first, last):
            if name == "first":
                first_is_in.set()
                assert second_is_done.wait(60)
            pieces[name].add((first, last))
            threads[name].add(threading.get_ident())

        return piece

    one = threading.Thread(target=lambda: in_pieces(work("first"), 9 * TILE))
    one.start()
    assert first_is_in.wait(60)
    in_pieces(work("second"), 9 * TILE)
    second_is_done.set()
    one.join(60)
    assert pieces["first"] == pieces["second"]
    assert threads["second"] == {threading.get_ident()}
    assert threading.get_ident() not in threads["first"]
