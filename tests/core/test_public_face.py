"""The public face of every package is what its `__all__` says, its examples run, and its rules are all there."""

import doctest
import importlib
import pkgutil

import pytest

import eskel_core
from eskel_core.metals import (
    fluxes,
    glow_bands,
    metals,
    pickles,
    saw_blades,
    solder_suits,
    solders,
    surfaces,
    torches,
)
from eskel_core.rules import rules

PACKAGES = [
    "cli",
    "coldwork",
    "cutting",
    "faults",
    "forms",
    "joining",
    "lines",
    "log",
    "metals",
    "picture",
    "piece",
    "plan",
    "pot",
    "rules",
    "shapes",
    "sizes",
    "solver",
    "starts",
    "state",
    "units",
]
MODULES = [
    one.name
    for one in pkgutil.walk_packages(eskel_core.__path__, "eskel_core.")
    if "__main__" not in one.name
]


@pytest.mark.parametrize("name", PACKAGES)
def test_a_package_names_its_public_face(name: str) -> None:
    package = importlib.import_module(f"eskel_core.{name}")
    face = {var for var in vars(package) if not var.startswith("_")}
    modules = {module.name for module in pkgutil.iter_modules(package.__path__)}
    assert set(package.__all__) == face - modules
    assert list(package.__all__) == sorted(
        package.__all__, key=lambda one: (not one.isupper(), one[0].islower(), one)
    )


@pytest.mark.parametrize("name", MODULES)
def test_the_examples_in_docstrings_run(name: str) -> None:
    assert doctest.testmod(importlib.import_module(name)).failed == 0


def test_the_tables_are_whole() -> None:
    sizes = [
        len(table())
        for table in (metals, solders, torches, surfaces, pickles, fluxes, saw_blades, glow_bands)
    ]
    assert sizes == [19, 11, 9, 7, 4, 4, 12, 9]
    assert all(
        metal.solidus_c <= metal.liquidus_c and metal.anneal_high_c < metal.solidus_c
        for metal in metals().values()
    )
    assert all(solder.solidus_c < solder.flow_c for solder in solders().values())


def test_every_rule_has_a_severity_and_a_remedy() -> None:
    assert len(rules()) > 50
    assert {rule.severity for rule in rules().values()} == {"danger", "stop", "warn", "note"}
    assert all(rule.when and rule.remedy for rule in rules().values())


def test_solder_suits_by_family_and_never_phosphorus_on_nickel() -> None:
    assert solder_suits(solders()["us-easy"], metals()["brass-c260"])
    assert solder_suits(solders()["cu-p"], metals()["brass-c260"])
    assert not solder_suits(solders()["cu-p"], metals()["sterling-925"])
    assert not solder_suits(solders()["cu-p"], metals()["nickel-silver-c752"])
