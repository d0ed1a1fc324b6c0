"""Readings: what can be measured and drawn of a picture or a look."""
