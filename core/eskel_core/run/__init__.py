"""At the torch: what the signs that were pressed in a heat say of what is left of it.

Public: `told_anew`, from the stages that were rehearsed and the moments at which their signs were pressed, to a `Today`.
"""

from ._today import Today, told_anew

__all__ = ["Today", "told_anew"]
