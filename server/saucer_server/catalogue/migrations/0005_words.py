"""The words that entries hold, once."""

from django.contrib.postgres.indexes import GinIndex
from django.db import migrations, models

FILL = "INSERT INTO catalogue_word (word) SELECT word FROM ts_stat('SELECT document FROM catalogue_entry') ORDER BY word"


class Migration(migrations.Migration):

    dependencies = [("catalogue", "0004_entries")]

    operations = [
        migrations.CreateModel(
            name="Word",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("word", models.TextField(unique=True)),
            ],
            options={"indexes": [GinIndex(fields=["word"], name="word_alike", opclasses=["gin_trgm_ops"])]},
        ),
        migrations.RunSQL(FILL, migrations.RunSQL.noop),
    ]
