"""Cases of the heat beside finite elements by a kept library: a plate, and a ring that stands on one."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np
from scipy.sparse import bmat, diags
from scipy.sparse.linalg import splu
from skfem import Basis, BilinearForm, ElementTriP2, LinearForm, MeshTri
from skfem.helpers import dot, grad

from eskel_core.forms import RectOutline, Sheet, Strip
from eskel_core.heat import (
    KELVIN,
    SIGMA,
    Flame,
    March,
    Network,
    Touch,
    assemble,
)
from eskel_core.metals import Metal, metals

from .heat_bodies import ROOM_C, Case, Floats, cut, march_to


@dataclass(frozen=True)
class _Lit:
    """A flame beside a plate: where it points, mm, its footprint, mm, film, W/m²K, and gas, °C."""

    x: float = 8.0
    y: float = 5.0
    footprint: float = 10.0
    film: float = 420.0
    gas: float = 1650.0

    def at(self, x_mm: Floats, y_mm: Floats) -> Floats:
        made: Floats = self.film * np.exp(-((x_mm - self.x) ** 2 + (y_mm - self.y) ** 2) / self.footprint**2)
        return made


def plate(width_mm: float, height_mm: float, thickness_mm: float, seconds: float, metal: str) -> Case:
    """A plate under a flame off its middle, with all losses, beside finite elements, at 25 points."""
    lit = _Lit(width_mm / 5, height_mm / 8)
    form = _sheet(width_mm, height_mm, thickness_mm)
    cells = cut(form, metal, size_mm=math.sqrt(width_mm * height_mm / 200))
    network = assemble({"plate": cells})
    march = _heated(network, lit, seconds)
    points = _points(width_mm, height_mm)
    theirs = _elements(width_mm, height_mm, thickness_mm, metals()[metal], lit, seconds, points, refine=5)
    ours = _between(network.x_mm, network.y_mm, march.t.copy(), points)
    return Case(
        f"{metal} plate {width_mm:g} × {height_mm:g} × {thickness_mm:g} mm, {seconds:g} s",
        "finite elements",
        0.03,
        np.arange(25.0),
        "point",
        ours,
        theirs,
        float(theirs.max() - ROOM_C),
    )


def ring_on_plate(width_mm: float, ring_mm: float, high_mm: float, seconds: float) -> Case:
    """A ring standing on a plate, joined by glassy flux all round, beside finite elements: 25 points and 12 of the ring."""
    thickness, strip_mm, contact = 0.8, 1.0, 20_000.0
    metal = metals()["sterling-925"]
    lit = _Lit(width_mm / 5, width_mm / 8)
    around = math.pi * ring_mm
    ring = cut(
        Strip(kind="strip", width_mm=high_mm, thickness_mm=strip_mm, length_mm=around, closed=True),
        size_mm=around / 48,
    )
    base = cut(_sheet(width_mm, width_mm, thickness), size_mm=width_mm / 20)
    start, area = len(base), np.full(len(ring), around * strip_mm * 1e-6 / len(ring))
    far = (base.x_mm - ring.x_mm[:, None]) ** 2 + (base.y_mm - ring.y_mm[:, None]) ** 2
    touch = Touch(
        "foot", "foot", start + np.arange(len(ring)), far.argmin(axis=1), area, area * contact, True
    )
    seam = Touch(
        "close",
        "close",
        np.array([start + len(ring) - 1]),
        np.array([start]),
        np.array([1e-12]),
        np.array([metal.conductivity_w_mk * high_mm * strip_mm * 1e-6 / (around / len(ring) / 1000)]),
        True,
    )
    network = assemble({"plate": base, "ring": ring}, (touch, seam))
    # The elements know no covered faces: both sides leave the contact's share of film and loss out.
    bare = assemble({"plate": base, "ring": ring})
    network = replace(network, surface_m2=bare.surface_m2, above_m2=bare.above_m2)
    march = _heated(network, lit, seconds)
    points = _points(width_mm, width_mm)
    turns = np.arange(12) * 2 * math.pi / 12
    theirs = _elements(
        width_mm,
        width_mm,
        thickness,
        metal,
        lit,
        seconds,
        points,
        refine=5,
        ring=_Ring(ring_mm / 2, high_mm, strip_mm, contact, turns),
    )
    flat = march.t[: len(base)]
    told = np.arctan2(ring.y_mm, ring.x_mm)
    order = np.argsort(told)
    ours_ring = np.interp(
        np.angle(np.exp(1j * turns)), told[order], march.t[start:][order], period=2 * math.pi
    )
    ours = np.concatenate([_between(base.x_mm, base.y_mm, flat, points), ours_ring])
    return Case(
        f"ring of {ring_mm:g} × {high_mm:g} mm on a plate of {width_mm:g} mm, {seconds:g} s",
        "finite elements",
        0.05,
        np.arange(37.0),
        "point",
        ours,
        theirs,
        float(theirs.max() - ROOM_C),
    )


def _sheet(width_mm: float, height_mm: float, thickness_mm: float) -> Sheet:
    outline = RectOutline(kind="rect", width_mm=width_mm, height_mm=height_mm)
    return Sheet(kind="sheet", thickness_mm=thickness_mm, outline=outline)


def _heated(network: Network, lit: _Lit, seconds: float) -> March:
    film = network.above_m2 * lit.at(network.x_mm, network.y_mm)
    march = March(network, Flame(lit.gas))
    march.aim(film)
    march_to(march, seconds)
    return march


def _points(width_mm: float, height_mm: float) -> Floats:
    shares = np.array([-0.4, -0.2, 0.0, 0.2, 0.4])
    x, y = np.meshgrid(shares * width_mm, shares * height_mm)
    return np.stack([x.ravel(), y.ravel()])


def _between(x_mm: Floats, y_mm: Floats, t: Floats, points: Floats) -> Floats:
    """Read cells of a grid at points, along straight lines between their middles."""
    from scipy.interpolate import LinearNDInterpolator, NearestNDInterpolator

    known = np.stack([x_mm, y_mm], -1)
    read = LinearNDInterpolator(known, t)(points.T)
    made: Floats = np.where(np.isnan(read), NearestNDInterpolator(known, t)(points.T), read)
    return made


@dataclass(frozen=True)
class _Ring:
    radius_mm: float
    high_mm: float
    strip_mm: float
    contact: float
    turns: Floats


def _elements(
    width_mm: float,
    height_mm: float,
    thickness_mm: float,
    metal: Metal,
    lit: _Lit,
    seconds: float,
    points: Floats,
    refine: int,
    ring: _Ring | None = None,
) -> Floats:
    """Solve the plate (and a ring upon it) by quadratic elements and small steps, for temperatures at points, °C."""
    mesh = MeshTri.init_tensor(
        np.linspace(-width_mm / 2, width_mm / 2, 3), np.linspace(-height_mm / 2, height_mm / 2, 3)
    ).refined(refine - 1)
    basis = Basis(mesh, ElementTriP2())
    depth = thickness_mm * 1e-3
    volume = metal.density_g_cm3 * 1000 * metal.specific_heat_j_kgk
    mass = BilinearForm(lambda u, v, _: u * v).assemble(basis) * 1e-6
    stiff = (
        BilinearForm(lambda u, v, _: dot(grad(u), grad(v))).assemble(basis) * metal.conductivity_w_mk * depth
    )
    film = BilinearForm(lambda u, v, w: lit.at(w.x[0], w.x[1]) * u * v).assemble(basis) * 1e-6
    given = LinearForm(lambda v, w: lit.at(w.x[0], w.x[1]) * v).assemble(basis) * 1e-6 * lit.gas
    lumped = np.asarray(mass.sum(axis=1)).ravel()
    edge = _edge_share(basis, width_mm, height_mm) * thickness_mm * 1e-6
    losing = 2 * lumped + edge
    heat = mass * volume * depth
    conduct, taken, source, count = stiff, film, given, len(lumped)
    probes = basis.probes(points)
    if ring is not None:
        turns = np.arange(240) * 2 * math.pi / 240
        x, y = ring.radius_mm * np.cos(turns), ring.radius_mm * np.sin(turns)
        long_m = 2 * math.pi * ring.radius_mm / 240 / 1000
        section = ring.high_mm * ring.strip_mm * 1e-6
        foot = basis.probes(np.stack([x, y]))
        through = diags(np.full(240, ring.contact * ring.strip_mm * 1e-3 * long_m))
        along = metal.conductivity_w_mk * section / long_m
        round_about = along * diags([2.0, -1.0, -1.0, -1.0, -1.0], [0, 1, -1, 239, -239], shape=(240, 240))
        seen = lit.at(x, y) * ring.high_mm * 1e-3 * long_m
        heat = bmat([[heat, None], [None, diags(np.full(240, volume * section * long_m))]])
        conduct = bmat(
            [[conduct + foot.T @ through @ foot, -foot.T @ through], [-through @ foot, round_about + through]]
        )
        taken = bmat([[taken, None], [None, diags(seen)]])
        source = np.concatenate([source, seen * lit.gas])
        losing = np.concatenate([losing, np.full(240, 2 * (ring.high_mm + ring.strip_mm) * 1e-3 * long_m)])
    t = np.full(heat.shape[0], ROOM_C)
    step = 0.02
    ahead = splu((heat / step + conduct + taken).tocsc())
    emissive, change = metal.emissivity_clean, metal.emissivity_heated - metal.emissivity_clean

    def lost(now: Floats) -> Floats:
        e = emissive + change * np.clip((now - 300) / 300, 0, 1)
        made: Floats = losing * (
            e * SIGMA * ((now + KELVIN) ** 4 - (ROOM_C + KELVIN) ** 4) + 12.0 * (now - ROOM_C)
        )
        return made

    before = lost(t)
    for _ in range(round(seconds / step)):
        now = lost(t)
        t = ahead.solve(heat @ t / step + source - (1.5 * now - 0.5 * before))
        before = now
    at: Floats = probes @ t[:count]
    if ring is None:
        return at
    there = t[count:]
    around = np.arange(len(there)) * 2 * math.pi / len(there)
    return np.concatenate([at, np.interp(ring.turns, around, there, period=2 * math.pi)])


def _edge_share(basis: Basis, width_mm: float, height_mm: float) -> Floats:
    """Give the length of edge that each unknown stands for, mm."""
    boundary = basis.boundary()
    made: Floats = LinearForm(lambda v, _: 1.0 * v).assemble(boundary)
    assert abs(made.sum() - 2 * (width_mm + height_mm)) < 1e-6
    return made
