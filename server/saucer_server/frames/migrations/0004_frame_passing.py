"""Pictures that are dropped in for now."""

from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [("frames", "0003_frame_doubt")]

    operations = [migrations.AddField(model_name="frame", name="passing", field=models.BooleanField(default=False))]
