"""Writes down in each project which delivery was its last one."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("delivering", "0004_no_contents"), ("projects", "0004_last_delivery")]

    operations = [
        migrations.RunSQL(
            """
            update projects_project set delivered = last.number, delivered_at = last.made_at
            from (
                select distinct on (project_id) project_id, number, made_at
                from projects_delivery where ready order by project_id, number desc
            ) as last
            where last.project_id = projects_project.id
            """,
            "update projects_project set delivered = null, delivered_at = null",
        ),
    ]
