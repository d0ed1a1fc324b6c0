"""Cuts of a project: lists that come in, what they change, and lists that go out with looks on them."""
