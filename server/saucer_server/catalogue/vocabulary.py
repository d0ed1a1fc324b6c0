"""The vocabulary: every word that entries hold, once. A misspelt word is looked for here rather than in every
entry."""

from collections.abc import Sequence

from django.contrib.postgres.search import TrigramWordDistance
from django.db import connection

from .models import Word

#: Words that a misspelt one is taken for, at most.
MEANT = 8

_LEARN = """
    INSERT INTO catalogue_word (word)
    SELECT DISTINCT held FROM catalogue_entry, unnest(tsvector_to_array(document)) AS held
    WHERE look_id = ANY(%s) AND NOT EXISTS (SELECT FROM catalogue_word WHERE word = held)
    ORDER BY held ON CONFLICT DO NOTHING
"""
_HELD = "SELECT word FROM ts_stat('SELECT document FROM catalogue_entry')"
_PUT_RIGHT = (
    f"INSERT INTO catalogue_word (word) {_HELD} ORDER BY word ON CONFLICT DO NOTHING",
    f"DELETE FROM catalogue_word WHERE word NOT IN ({_HELD})",
)


def learn(ids: Sequence[int]) -> None:
    """Adds the words of these looks' entries.

    To be called outside of a larger transaction: two that each added words in several goes could wait for one
    another for ever. Within one go they are added in their order, so that this cannot happen.
    """
    with connection.cursor() as cursor:
        cursor.execute(_LEARN, [list(ids)])


def put_right() -> None:
    """Adds words that are missing, and removes those that no entry holds any more."""
    with connection.cursor() as cursor:
        for statement in _PUT_RIGHT:
            cursor.execute(statement)


def meant(word: str) -> list[str]:
    """The words that a misspelt one may stand for, the nearest first; none where nothing is like it."""
    alike = Word.objects.filter(word__trigram_word_similar=word).annotate(
        apart=TrigramWordDistance(word, "word")
    )
    return list(alike.order_by("apart", "word").values_list("word", flat=True)[:MEANT])
