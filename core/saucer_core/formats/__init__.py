"""Reading and writing files, one module a format; ``registry`` finds the right one."""
