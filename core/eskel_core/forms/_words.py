"""Forms in words."""

from __future__ import annotations

from ._profiles import profile_across_mm, profile_height_mm
from ._types import Form


def say_stock(form: Form) -> str:
    """Write the stock that a form is cut from, in words."""
    match form.kind:
        case "wire":
            profile = form.profile
            across, high = profile_across_mm(profile), profile_height_mm(profile)
            size = f"{across:g}" if profile.kind in ("round", "square") else f"{across:g} × {high:g}"
            strands = f"{form.strands} strands of " if form.strands > 1 else ""
            return f"{strands}{profile.kind} wire {size} mm"
        case "sheet":
            return f"sheet {form.thickness_mm:g} mm"
        case "strip":
            return f"strip {form.width_mm:g} × {form.thickness_mm:g} mm"
        case "tube":
            return f"tube {form.outer_mm:g} mm, wall {form.wall_mm:g} mm"
        case "ball":
            return f"ball {form.diameter_mm:g} mm"
        case _:
            return "as bought or cast"
