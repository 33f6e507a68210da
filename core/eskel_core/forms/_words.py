"""Forms in words."""

from __future__ import annotations

from ..units import about, sizes
from ._profiles import profile_across_mm, profile_height_mm
from ._types import Form


def say_stock(form: Form) -> str:
    """Write the stock that a form is cut from, in words."""
    match form.kind:
        case "wire":
            profile = form.profile
            across, high = profile_across_mm(profile), profile_height_mm(profile)
            size = about(across) if profile.kind in ("round", "square") else sizes(across, high)
            strands = f"{form.strands} strands of " if form.strands > 1 else ""
            return f"{strands}{profile.kind} wire {size}"
        case "sheet":
            return f"sheet {about(form.thickness_mm)}"
        case "strip":
            return f"strip {sizes(form.width_mm, form.thickness_mm)}"
        case "tube":
            return f"tube {about(form.outer_mm)}, wall {about(form.wall_mm)}"
        case "ball":
            return f"ball {about(form.diameter_mm)}"
        case _:
            return "as bought or cast"
