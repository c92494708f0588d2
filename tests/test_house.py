"""House rules that a reader relies on: sources cited, figures explained, nothing unnamed."""

import importlib
import inspect
import pkgutil
import re
from pathlib import Path

import caldarium.core
import caldarium.words
from caldarium.catalogue import load_catalogue
from caldarium.core.load.provisions import day_needs
from caldarium.core.load.share import FAIRNESS, split_of
from caldarium.core.load.travel import travel
from caldarium.core.plan.course import Course
from caldarium.core.what_if.idle import idle_pieces
from caldarium.words.course import course_sentence
from caldarium.words.day import outfit_sentence
from caldarium.words.load import load_sentence
from caldarium.words.night import bed_sentence, shelter_sentence
from caldarium.words.steps_day import explain_moment
from caldarium.words.steps_food import explain_energy, explain_fuel, explain_water
from caldarium.words.steps_load import explain_idle, explain_load, explain_split, explain_travel
from caldarium.words.steps_night import explain_night, explain_shelter
from caldarium.words.units import Display
from caldarium.words.weather import caution_sentence

ROOT = Path(__file__).parents[1]
MODULES = [
    found.name
    for room in (caldarium.core, caldarium.words)
    for found in pkgutil.walk_packages(room.__path__, f"{room.__name__}.")
    if not found.ispkg
]
WINGS = {"physics", "plan", "stock", "timeline", "day", "night", "load", "what_if"}


def test_the_guard_sees_every_module_of_every_wing() -> None:
    seen = [name for name in MODULES if name.startswith("caldarium.core.")]
    files = [
        each for each in (ROOT / "caldarium" / "core").rglob("*.py") if each.stem != "__init__"
    ]
    assert len(seen) == len(files) >= 70
    assert {name.split(".")[2] for name in seen} >= WINGS
    assert len(MODULES) - len(seen) >= 17


def test_every_public_function_cites_its_source_and_how_many_there_are() -> None:
    looked = 0
    for name in MODULES:
        module = importlib.import_module(name)
        for found, function in inspect.getmembers(module, inspect.isfunction):
            if function.__module__ == name and not found.startswith("_"):
                looked += 1
                assert "Source:" in (function.__doc__ or ""), f"{name}.{found}"
    assert looked >= 360, looked


def test_every_wing_says_what_lives_there() -> None:
    for folder in (ROOT / "caldarium").rglob("__init__.py"):
        if "migrations" not in folder.parts:
            assert folder.read_text("utf-8").startswith('"""'), folder


def test_method_names_what_the_code_uses() -> None:
    method = (ROOT / "docs" / "method.md").read_text("utf-8")
    for words in (
        "ISO 11079",
        "Pandolf",
        "Looney",
        "ISO 9920",
        "ISO 7933",
        "EN 1991-1-4",
        "Churchill & Bernstein",
        "Spencer",
        "Kasten & Czeplak",
        "Parton & Logan",
        "DuBois",
        "IAPWS",
        "common practice, no published source",
        "calibrated judgement",
    ):
        assert words in method


def test_catalogue_is_whole_and_every_row_has_a_source() -> None:
    catalogue = load_catalogue()
    assert len(catalogue.garments) >= 30
    for piece in catalogue.garments.values():
        assert piece.source, piece.id
        assert 10 <= piece.mass_g <= 3000
    known = (
        set(catalogue.garments) | set(catalogue.bags) | set(catalogue.pads) | set(catalogue.items)
    )
    for name, pieces in catalogue.sets.items():
        assert set(pieces) <= known, name
        assert catalogue.kit(name)["bag"] is not None


def test_every_moment_bed_and_load_is_explained(demo: Course, demo_result) -> None:
    moments = {m.id: m for m in demo_result.timeline.moments}
    idle = idle_pieces(demo, demo_result)
    for display in (Display(), Display(customary=True)):
        for person, found in zip(demo.people, demo_result.people, strict=True):
            for state in found.moments:
                steps = explain_moment(moments[state.moment], state, display)
                assert all(step.value and step.formula and step.source for step in steps)
            for night in found.nights:
                assert all(step.source for step in explain_night(night, display))
            needs = day_needs(demo, demo_result.timeline, person, found.moments, found.nights)
            for steps in (
                explain_load(demo, person, found.load, display),
                explain_energy(demo, needs, display),
                explain_fuel(demo, demo_result.fuel, display),
                explain_water(demo, person, demo_result.timeline, found.load.dry, display),
                explain_idle(demo, person, idle[person.id], moments, display),
                explain_travel(demo, travel(demo, person, found.moments), display),
            ):
                assert all(step.value and step.formula and step.source for step in steps)
        split = split_of(demo, [each.load for each in demo_result.people], FAIRNESS[0])
        assert all(step.source for step in explain_split(demo, split, display))
        for night in demo_result.shelters:
            steps = explain_shelter(night, display)
            assert display.wind(night.gust) in {step.value for step in steps}


def test_sentences_hold_their_numbers(demo: Course, demo_result) -> None:
    moments = {m.id: m for m in demo_result.timeline.moments}
    for found in demo_result.people:
        for state in found.moments:
            sentence = outfit_sentence(moments[state.moment], state, Display())
            assert re.search(r"\d", sentence)
            assert sentence.endswith(".")
            assert "inf" not in sentence.split()
        for night in found.nights:
            assert "°C" in bed_sentence(night, Display())
        sentence = load_sentence(found, "Monday", Display())
        assert "skin out" in sentence
    unfit = [night for night in demo_result.shelters if not night.fit]
    assert "is unfit for the night: gusts" in shelter_sentence(demo, unfit[0], Display())
    summary = course_sentence(demo, demo_result)
    gaps = sum(m.state == "gap" for p in demo_result.people for m in p.moments)
    assert summary.startswith(f"{gaps} gaps")


def test_caution_is_always_said(demo: Course) -> None:
    for level, words in (
        ("as forecast", "nothing added"),
        ("cautious", "−2.5 K"),
        ("expedition", "−5.0 K"),
    ):
        assert words in caution_sentence(demo.altered(caution=level), Display())


def test_readme_links_are_there() -> None:
    readme = (ROOT / "README.md").read_text("utf-8")
    for target in re.findall(r"\]\(([^)]+)\)", readme):
        assert (ROOT / target).exists(), target
    for picture in (ROOT / "docs" / "screenshots").glob("*.png"):
        assert picture.name in readme
