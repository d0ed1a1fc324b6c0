"""Inspecting what a table or look does, and taking a table apart into editable steps."""
