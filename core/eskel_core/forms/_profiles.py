"""Sections of wire: area, perimeter and size across."""

from __future__ import annotations

import math

from ._types import HalfRound, Profile, Rect, Round, Square


def profile_area_mm2(profile: Profile) -> float:
    """Give the area of a section, mm².

    >>> round(profile_area_mm2(HalfRound(kind="half-round", width_mm=4, height_mm=1.5)), 3)
    4.419
    """
    match profile:
        case Round():
            return math.pi * profile.diameter_mm**2 / 4
        case Square():
            return profile.side_mm**2
        case Rect():
            return profile.width_mm * profile.height_mm
        case HalfRound():
            radius, half_angle = _arc(profile)
            return radius**2 * (half_angle - math.sin(2 * half_angle) / 2)


def profile_perimeter_mm(profile: Profile) -> float:
    """Give the length round a section, mm."""
    match profile:
        case Round():
            return math.pi * profile.diameter_mm
        case Square():
            return 4 * profile.side_mm
        case Rect():
            return 2 * (profile.width_mm + profile.height_mm)
        case HalfRound():
            radius, half_angle = _arc(profile)
            return profile.width_mm + 2 * half_angle * radius


def profile_across_mm(profile: Profile) -> float:
    """Give the width that a section shows in plan, mm."""
    match profile:
        case Round():
            return profile.diameter_mm
        case Square():
            return profile.side_mm
        case _:
            return profile.width_mm


def profile_height_mm(profile: Profile) -> float:
    """Give the height of a section as it lies, mm."""
    match profile:
        case Rect() | HalfRound():
            return profile.height_mm
        case _:
            return profile_across_mm(profile)


def _arc(profile: HalfRound) -> tuple[float, float]:
    """Give radius, mm, and half angle, rad, of the circle slice with this chord and height."""
    height, half_width = profile.height_mm, profile.width_mm / 2
    radius = (half_width**2 + height**2) / (2 * height)
    return radius, math.acos(max(-1.0, 1 - height / radius))
