"""Setting up and running Saucer on one machine. Standard library only: it runs before anything is
installed."""
