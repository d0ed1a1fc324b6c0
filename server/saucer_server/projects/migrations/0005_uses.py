"""Writes down which looks are on shots of which projects."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("projects", "0004_last_delivery"), ("catalogue", "0007_use")]

    operations = [
        migrations.RunSQL(
            """
            insert into catalogue_use (look_id, project, name, circle_id, shots)
            select revision.look_id, project.id, project.name, project.circle_id, count(distinct shot.id)
            from projects_layer as layer
            join projects_shot as shot on shot.id = layer.shot_id
            join projects_project as project on project.id = shot.project_id
            join looks_revision as revision on revision.id = layer.revision_id
            group by revision.look_id, project.id
            """,
            "delete from catalogue_use",
        ),
    ]
