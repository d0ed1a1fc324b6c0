"""The colour core of Saucer: looks, tables of colours, and the files that hold them."""
