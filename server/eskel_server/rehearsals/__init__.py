"""Rehearsals asked for, worked out in a process of their own, and held against what the log says."""
