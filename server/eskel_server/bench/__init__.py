"""The bench: house rules, torch, surface, pickle, flux and the solders in stock.

Public: `bench_of`.
"""

from .queries import bench_of

__all__ = ["bench_of"]
