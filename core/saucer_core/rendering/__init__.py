"""The render room: a delivery's looks and trims put on the footage where it lies."""
