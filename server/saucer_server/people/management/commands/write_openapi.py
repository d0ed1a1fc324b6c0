"""Writes the OpenAPI document that the front end's types are made from."""

import json
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandParser


class Command(BaseCommand):
    """``manage.py write_openapi FILE DECLARED``."""

    help = __doc__ or ""

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)
        parser.add_argument("declared", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        from saucer_server.api import api
        from saucer_server.declared import declared

        text = json.dumps(api.get_openapi_schema(), indent=1, ensure_ascii=False) + "\n"
        options["file"].write_text(text, encoding="utf-8")
        facts = json.dumps(declared().model_dump(), indent=2, ensure_ascii=False) + "\n"
        options["declared"].write_text(facts, encoding="utf-8")
