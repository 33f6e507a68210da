"""The cases that prove the model of heat: each beside a closed form, or a finite-element solution by a kept library."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import partial

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import bmat, diags
from scipy.sparse.linalg import splu
from scipy.special import erfcx
from skfem import Basis, BilinearForm, ElementTriP2, LinearForm, MeshTri
from skfem.helpers import dot, grad

from eskel_core.forms import Ball, Form, RectOutline, Round, Sheet, Strip, Wire, plan_view
from eskel_core.heat import (
    KELVIN,
    SIGMA,
    Cells,
    Flame,
    Ground,
    March,
    Network,
    Touch,
    assemble,
    cells_of,
)
from eskel_core.metals import Metal, metals
from eskel_core.picture import PlacedPart

Floats = NDArray[np.float64]
ROOM_C = 20.0


@dataclass(frozen=True)
class Case:
    """A case: ours and the reference at the same abscissae, and how far off ours is at most, as a share of `scale`."""

    name: str
    reference: str
    bound: float
    x: Floats
    x_label: str
    ours: Floats
    theirs: Floats
    scale: float

    @property
    def error(self) -> float:
        """The largest difference as a share."""
        return float(np.abs(self.ours - self.theirs).max() / self.scale)


def placed(form: Form, x_mm: float = 0.0, y_mm: float = 0.0) -> PlacedPart:
    """Put a form flat in plan."""
    view = plan_view(form, "flat")
    lines = tuple(
        line.model_copy(update={"points": tuple((x + x_mm, y + y_mm) for x, y in line.points)})
        for line in view.lines
    )
    return PlacedPart(
        node="part",
        part="part",
        x_mm=x_mm,
        y_mm=y_mm,
        width_mm=view.width_mm,
        height_mm=view.height_mm,
        lines=lines,
    )


def cut(form: Form, metal: str = "sterling-925", size_mm: float = 1.0) -> Cells:
    """Cut a form that lies in the middle into cells."""
    return cells_of(form, metals()[metal], placed(form), "flat", size_mm)


def round_wire(diameter_mm: float, length_mm: float) -> Wire:
    """Make straight round wire."""
    return Wire(kind="wire", profile=Round(kind="round", diameter_mm=diameter_mm), length_mm=length_mm)


def march_to(march: March, seconds: float) -> None:
    """March until a time."""
    while march.seconds < seconds - 1e-9:
        march.step(seconds)


def ball_in_flame(diameter_mm: float, metal: str, gas_c: float, film: float) -> Case:
    """A ball in an even flame, without losses, as far as its solidus: T = Tg + (T0 − Tg)·exp(−t/τ)."""
    network = assemble({"ball": cut(Ball(kind="ball", diameter_mm=diameter_mm), metal)}, lossless=True)
    film_w_k = network.above_m2 * film
    tau = float(network.capacity_j_k[0] / film_w_k[0])
    end = min(3 * tau, -tau * math.log((gas_c - metals()[metal].solidus_c) / (gas_c - ROOM_C)) * 0.98)
    march = March(network, Flame(gas_c))
    march.aim(film_w_k)
    times, ours = [0.0], [ROOM_C]
    while march.seconds < end - 1e-9:
        march.step(end)
        times.append(march.seconds)
        ours.append(float(march.t[0, 0]))
    theirs = gas_c + (ROOM_C - gas_c) * np.exp(-np.array(times) / tau)
    return Case(
        f"ball of {diameter_mm:g} mm, {metal}, in a flame of {gas_c:g} °C", "exponential", 0.005,
        np.array(times), "s", np.array(ours), theirs, theirs[-1] - ROOM_C,
    )  # fmt: skip


def ball_radiating(diameter_mm: float, surroundings_k: float, start_c: float = 780.0) -> Case:
    """A ball cooling by radiation alone at a fixed emissivity, to surroundings at 0 K or at 293 K."""
    network = assemble({"ball": cut(Ball(kind="ball", diameter_mm=diameter_mm))})
    emissivity = np.full(1, 0.45)
    network = replace(network, clean=emissivity, heated=emissivity, convection_w_m2k=np.zeros(1))
    rate = float(network.surface_m2[0] * 0.45 * SIGMA / network.capacity_j_k[0])
    start, end_k = start_c + KELVIN, 0.45 * (start_c + KELVIN) + 0.5 * surroundings_k
    end = _radiating_s(start, end_k, surroundings_k) / rate
    march = March(network, Flame(20.0), room_c=surroundings_k - KELVIN, start_c=np.full(1, start_c))
    march.aim(np.zeros(1))
    ours, theirs_s, times = [start], [0.0], [0.0]
    while march.seconds < end - 1e-9:
        march.step(end)
        kelvin = float(march.t[0, 0]) + KELVIN
        times.append(march.seconds)
        ours.append(kelvin)
        theirs_s.append(_radiating_s(start, kelvin, surroundings_k) / rate)
    # The closed form gives the time of a temperature: the difference in time, times the pace there, is that in °C.
    pace = rate * (np.array(ours) ** 4 - surroundings_k**4)
    off = (np.array(theirs_s) - np.array(times)) * pace
    return Case(
        f"ball of {diameter_mm:g} mm radiating to {surroundings_k:g} K", "closed form", 0.005,
        np.array(times), "s", np.array(ours) - KELVIN, np.array(ours) - KELVIN + off, start - ours[-1],
    )  # fmt: skip


def _radiating_s(start_k: float, end_k: float, room_k: float) -> float:
    """Give the time times rate of cooling by radiation: T⁻³ at 0 K, else logarithm and arctangent."""
    if room_k == 0:
        return (end_k**-3 - start_k**-3) / 3

    def whole(kelvin: float) -> float:
        return (
            math.log((kelvin + room_k) / (kelvin - room_k)) / 4 + math.atan(kelvin / room_k) / 2
        ) / room_k**3

    # ∫ dT/(T⁴ − R⁴) = (1/4R³)·ln((T − R)/(T + R)) − (1/2R³)·arctan(T/R)
    return whole(end_k) - whole(start_k)


def long_wire(diameter_mm: float, length_mm: float, metal: str) -> Case:
    """Long wire heated at one end, steady, with a linear loss: the fin equation with its far end adiabatic."""
    cells = cut(round_wire(diameter_mm, length_mm), metal, size_mm=length_mm / 200)
    network = assemble({"wire": cells})
    still = np.zeros(len(cells))
    surface = network.surface_m2.copy()
    surface[[0, -1]] = surface[1]
    never = np.full(len(cells), 1e6)
    network = replace(
        network, clean=still, heated=still, surface_m2=surface, solidus_c=never, liquidus_c=2 * never
    )
    film = np.zeros(len(cells))
    film[0] = 1e-4
    gas = 60_000.0
    march = March(network, Flame(gas), longest_s=100.0)
    march.aim(film)
    march_to(march, 60_000.0)
    k, loss = metals()[metal].conductivity_w_mk, float(network.convection_w_m2k[0])
    section = math.pi * (diameter_mm / 1000) ** 2 / 4
    m = math.sqrt(loss * 4 / (k * diameter_mm / 1000))
    given = float(film[0] * (gas - march.t[0, 0]))
    x = (np.arange(len(cells)) + 0.5) * length_mm / len(cells) / 1000
    whole = length_mm / 1000
    theirs = ROOM_C + given / (k * section * m) * np.cosh(m * (whole - x)) / math.sinh(m * whole)
    ours = march.t[:, 0]
    return Case(
        f"{metal} wire {diameter_mm:g} × {length_mm:g} mm heated at one end", "fin equation", 0.01,
        x * 1000, "mm", ours, theirs, float(theirs.max() - ROOM_C),
    )  # fmt: skip


def slab_on_block(effusivity: float, capacity_j_m2k: float, flux_w_m2: float = 20_000.0) -> Case:
    """A slab of capacity C on a half-space, perfect contact, even flux: (q·C/e²)·[exp(x²)·erfc(x) − 1 + 2x/√π]."""
    cells = cut(Ball(kind="ball", diameter_mm=1))
    area = np.full(1, 1e-4)
    network = assemble({"slab": cells}, ground=Ground(effusivity, 1e9), resting={"slab": area})
    network = replace(
        network,
        capacity_j_k=capacity_j_m2k * area,
        surface_m2=np.zeros(1),
        solidus_c=np.full(1, 1e6),
        liquidus_c=np.full(1, 2e6),
    )
    gas = 1e9
    march = March(network, Flame(gas))
    march.aim(flux_w_m2 * area / gas)
    times = np.array([1.0, 2, 5, 10, 20, 40, 80, 160, 320])
    ours = []
    for time in times:
        march_to(march, float(time))
        ours.append(float(march.t[0, 0]) - ROOM_C)
    x = effusivity * np.sqrt(times) / capacity_j_m2k
    theirs = flux_w_m2 * capacity_j_m2k / effusivity**2 * (erfcx(x) - 1 + 2 * x / math.sqrt(math.pi))
    share = np.array(ours) / theirs
    return Case(
        f"slab of {capacity_j_m2k:g} J/m²K on a block of {effusivity:g} W·√s/m²K", "half-space", 0.02,
        times, "s", share, np.ones(len(times)), 1.0,
    )  # fmt: skip


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
    ours = _between(network.x_mm, network.y_mm, march.t[:, 0], points)
    return Case(
        f"{metal} plate {width_mm:g} × {height_mm:g} × {thickness_mm:g} mm, {seconds:g} s", "finite elements", 0.03,
        np.arange(25.0), "point", ours, theirs, float(theirs.max() - ROOM_C),
    )  # fmt: skip


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
    seam = Touch("close", "close", np.array([start + len(ring) - 1]), np.array([start]), np.array([1e-12]),
                 np.array([metal.conductivity_w_mk * high_mm * strip_mm * 1e-6 / (around / len(ring) / 1000)]), True)  # fmt: skip
    network = assemble({"plate": base, "ring": ring}, (touch, seam))
    # The elements know no covered faces: both sides leave the contact's share of film and loss out.
    bare = assemble({"plate": base, "ring": ring})
    network = replace(network, surface_m2=bare.surface_m2, above_m2=bare.above_m2)
    march = _heated(network, lit, seconds)
    points = _points(width_mm, width_mm)
    turns = np.arange(12) * 2 * math.pi / 12
    theirs = _elements(
        width_mm, width_mm, thickness, metal, lit, seconds, points, refine=5,
        ring=_Ring(ring_mm / 2, high_mm, strip_mm, contact, turns),
    )  # fmt: skip
    flat = march.t[: len(base), 0]
    told = np.arctan2(ring.y_mm, ring.x_mm)
    order = np.argsort(told)
    ours_ring = np.interp(
        np.angle(np.exp(1j * turns)), told[order], march.t[start:, 0][order], period=2 * math.pi
    )
    ours = np.concatenate([_between(base.x_mm, base.y_mm, flat, points), ours_ring])
    return Case(
        f"ring of {ring_mm:g} × {high_mm:g} mm on a plate of {width_mm:g} mm, {seconds:g} s", "finite elements", 0.05,
        np.arange(37.0), "point", ours, theirs, float(theirs.max() - ROOM_C),
    )  # fmt: skip


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


CASES: tuple[Callable[[], Case], ...] = (
    partial(ball_in_flame, 4.0, "sterling-925", 1600.0, 420.0),
    partial(ball_in_flame, 1.2, "copper", 2400.0, 900.0),
    partial(ball_in_flame, 9.0, "gold-18k-yellow", 1600.0, 270.0),
    partial(ball_radiating, 4.0, 0.0),
    partial(ball_radiating, 4.0, 293.0),
    partial(ball_radiating, 12.0, 293.0),
    partial(long_wire, 1.0, 200.0, "sterling-925"),
    partial(long_wire, 2.5, 150.0, "copper"),
    partial(long_wire, 0.8, 80.0, "nickel-silver-c752"),
    partial(slab_on_block, 160.0, 2745.0),
    partial(slab_on_block, 300.0, 1373.0),
    partial(slab_on_block, 450.0, 500.0),
    partial(plate, 40.0, 40.0, 0.8, 12.0, "sterling-925"),
    partial(plate, 60.0, 20.0, 1.2, 10.0, "copper"),
    partial(plate, 25.0, 25.0, 0.4, 6.0, "brass-c260"),
    partial(ring_on_plate, 40.0, 16.0, 4.0, 10.0),
    partial(ring_on_plate, 30.0, 22.0, 2.5, 8.0),
)
