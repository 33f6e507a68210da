"""The shelf: finished findings, made in runs, that other pieces take."""
