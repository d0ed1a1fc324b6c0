"""The version of Saucer, and the version of what its core computes."""

#: Of the core, the server and the interface alike. The changelog has a section for each.
__version__ = "1.0.0"
#: Raised with every change that moves a pixel: what is kept under an older one is computed anew.
#: ``tests/core/test_version.py`` notices.
PIXELS = 7
