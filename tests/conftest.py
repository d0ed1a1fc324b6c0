"""Files of the tests go to a place that is thrown away; heavy key stretching is left out."""

import os
import tempfile

import pytest

os.environ.setdefault("SAUCER_DATA", tempfile.mkdtemp(prefix="saucer-files-"))


@pytest.fixture(autouse=True)
def _own_files(settings, tmp_path):
    settings.MEDIA_ROOT = tmp_path / "files"
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
