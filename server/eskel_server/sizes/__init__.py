"""The calculators over HTTP: asked by what was typed, answered in the units of the house, kept to a piece."""
