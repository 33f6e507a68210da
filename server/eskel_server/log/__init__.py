"""The log: runs that were carried out, found again. It keeps nothing of its own; it reads the runs."""
