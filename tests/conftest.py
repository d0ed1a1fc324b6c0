"""Files of the tests go to a place that is thrown away; heavy key stretching is left out; random examples are the same each time."""

import os
import tempfile

import pytest
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
