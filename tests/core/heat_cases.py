"""The cases that prove the model of heat: each beside a closed form, or a finite-element solution by a kept library."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from functools import partial

import numpy as np
from scipy.special import erfcx

from eskel_core.forms import Ball
from eskel_core.heat import (
    KELVIN,
    SIGMA,
    Flame,
    Ground,
    Lying,
    March,
    assemble,
)
from eskel_core.metals import metals

from .heat_bodies import ROOM_C, Case, cut, march_to, round_wire
from .heat_elements import plate, ring_on_plate


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
        ours.append(float(march.t[0]))
    theirs = gas_c + (ROOM_C - gas_c) * np.exp(-np.array(times) / tau)
    return Case(
        f"ball of {diameter_mm:g} mm, {metal}, in a flame of {gas_c:g} °C",
        "exponential",
        0.005,
        np.array(times),
        "s",
        np.array(ours),
        theirs,
        theirs[-1] - ROOM_C,
    )


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
        kelvin = float(march.t[0]) + KELVIN
        times.append(march.seconds)
        ours.append(kelvin)
        theirs_s.append(_radiating_s(start, kelvin, surroundings_k) / rate)
    # The closed form gives the time of a temperature: the difference in time, times the pace there, is that in °C.
    pace = rate * (np.array(ours) ** 4 - surroundings_k**4)
    off = (np.array(theirs_s) - np.array(times)) * pace
    return Case(
        f"ball of {diameter_mm:g} mm radiating to {surroundings_k:g} K",
        "closed form",
        0.005,
        np.array(times),
        "s",
        np.array(ours) - KELVIN,
        np.array(ours) - KELVIN + off,
        start - ours[-1],
    )


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
    given = float(film[0] * (gas - march.t[0]))
    x = (np.arange(len(cells)) + 0.5) * length_mm / len(cells) / 1000
    whole = length_mm / 1000
    theirs = ROOM_C + given / (k * section * m) * np.cosh(m * (whole - x)) / math.sinh(m * whole)
    ours = march.t.copy()
    return Case(
        f"{metal} wire {diameter_mm:g} × {length_mm:g} mm heated at one end",
        "fin equation",
        0.01,
        x * 1000,
        "mm",
        ours,
        theirs,
        float(theirs.max() - ROOM_C),
    )


def slab_on_block(effusivity: float, capacity_j_m2k: float, flux_w_m2: float = 20_000.0) -> Case:
    """A slab of capacity C on a half-space, perfect contact, even flux: (q·C/e²)·[exp(x²)·erfc(x) − 1 + 2x/√π]."""
    cells = cut(Ball(kind="ball", diameter_mm=1))
    area = np.full(1, 1e-4)
    network = assemble({"slab": cells}, ground=Ground(effusivity, 1e9), lying=Lying(resting={"slab": area}))
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
        ours.append(float(march.t[0]) - ROOM_C)
    x = effusivity * np.sqrt(times) / capacity_j_m2k
    theirs = flux_w_m2 * capacity_j_m2k / effusivity**2 * (erfcx(x) - 1 + 2 * x / math.sqrt(math.pi))
    share = np.array(ours) / theirs
    return Case(
        f"slab of {capacity_j_m2k:g} J/m²K on a block of {effusivity:g} W·√s/m²K",
        "half-space",
        0.02,
        times,
        "s",
        share,
        np.ones(len(times)),
        1.0,
    )


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
