"""Files of the tests go to a place that is thrown away; heavy key stretching is left out; random examples are
the same each time."""

import os
import tempfile

import pytest
from django.db import connections
from hypothesis import settings as trying

from .amount import EXPLORING

trying.register_profile("same", derandomize=True)
trying.register_profile("explore", derandomize=False)
trying.load_profile("explore" if EXPLORING else "same")

os.environ.setdefault("SAUCER_DATA", tempfile.mkdtemp(prefix="saucer-files-"))


@pytest.fixture(autouse=True)
def _own_files(settings, tmp_path):
    settings.MEDIA_ROOT = tmp_path / "files"
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]


@pytest.fixture(scope="session")
def django_db_modify_db_settings(django_db_modify_db_settings_parallel_suffix):
    """The database of a test process is a copy of one that has its tables already, where ``./saucer test``
    names one."""
    template = os.environ.get("SAUCER_TEST_TEMPLATE")
    if template:
        connections["default"].settings_dict["TEST"]["TEMPLATE"] = template
