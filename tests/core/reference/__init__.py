"""Forty pieces of work as smiths do them, each with the way an experienced one would go about it."""
