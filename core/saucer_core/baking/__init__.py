"""Baking: a look as a table, how far the table is from it, and looks taken from carriers."""
