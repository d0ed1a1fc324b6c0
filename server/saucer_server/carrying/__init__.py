"""Carrying a look over from another program: a carrier goes out, comes back changed, and becomes a look."""
