"""Tables of colours: interpolation, baking, measuring."""
