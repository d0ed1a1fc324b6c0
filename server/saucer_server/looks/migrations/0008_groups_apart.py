"""Takes groups apart that lie deeper in a draft than a look may have them now: such a draft could be kept once, and not be read again."""

from typing import Any

from django.db import migrations

DEEPEST = 24



def shallow(steps: list[dict[str, Any]], depth: int = 0) -> list[dict[str, Any]]:
    """The steps, with groups below the deepest level dissolved where that changes no colour; a group that is off goes."""
    found: list[dict[str, Any]] = []
    for step in steps:
        if step.get("kind") != "group":
            found.append(step)
        elif depth < DEEPEST:
            found.append({**step, "steps": shallow(step.get("steps", []), depth + 1)})
        elif not step.get("on", True):
            continue
        else:
            # One that is eased cannot be dissolved and keep its colours; its steps stay, at full strength.
            found += shallow(step.get("steps", []), depth)
    return found


def mend(apps: Any, schema_editor: Any) -> None:
    for look in apps.get_model("looks", "Look").objects.only("pk", "draft").iterator():
        steps = look.draft.get("steps", [])
        mended = shallow(steps)
        if mended != steps:
            look.draft = {**look.draft, "steps": mended}
            look.save(update_fields=["draft"])


class Migration(migrations.Migration):
    dependencies = [("looks", "0007_shared")]
    operations = [migrations.RunPython(mend, migrations.RunPython.noop)]
