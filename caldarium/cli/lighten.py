"""`caldarium lighten`: the lightest sets of a course file, as JSON."""

import json
import math
import time
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

from caldarium.cli.course import read_course_file
from caldarium.cli.quiet import solver_silent

if TYPE_CHECKING:
    from caldarium.core.lighten.frontier import Tread
    from caldarium.core.lighten.group_choice import GroupChoice
    from caldarium.core.lighten.proposal import Proposal
    from caldarium.core.lighten.rounds import Search
    from caldarium.core.lighten.rules import Rule
    from caldarium.core.stock.supply import Source, Supply

STEP_PARTS = 7.0
"""Into how many of a step of caution the time for one person goes."""


def lighten(
    course: Annotated[Path, typer.Argument(help="course JSON file")],
    person: Annotated[str, typer.Option(help="id of one person; everybody where not given")] = "",
    caution: Annotated[str, typer.Option(help="as forecast, cautious or expedition")] = "",
    objective: Annotated[str, typer.Option(help="grams, cost, changes or litres")] = "grams",
    sources: Annotated[str, typer.Option(help="own,store,hire,buy: those that are on")] = "own",
    seconds: Annotated[float, typer.Option(help="search for each person at most so long")] = 20.0,
    steps: Annotated[
        int | None,
        typer.Option(
            help="steps of caution for the frontier of grams; where not given 5 for one person, "
            "and none for everybody",
            min=0,
            max=20,
        ),
    ] = None,
    database: Annotated[
        Path | None, typer.Option("--database", help="database with the store's pieces")
    ] = None,
) -> None:
    """The lightest set that holds a course, with its bound, proof and reasons, as JSON.

    A step of caution is looked for for a seventh of the time.
    """
    from caldarium.core.lighten.frontier import STEPS, frontier, with_milder
    from caldarium.core.lighten.problem import OBJECTIVES, Wish
    from caldarium.core.lighten.proposal import Question
    from caldarium.core.lighten.proposal import lighten as lightest
    from caldarium.core.plan.value import NotThereError
    from caldarium.core.stock.supply import SOURCES
    from caldarium.core.timeline.moments import build_timeline

    plan = read_course_file(course)
    wanted = [each.strip() for each in sources.split(",") if each.strip()]
    _refuse_unknown("sources", wanted, SOURCES)
    _refuse_unknown("objective", [objective], OBJECTIVES)
    if caution:
        cautions = ("as forecast", "cautious", "expedition")
        _refuse_unknown("caution", [caution], cautions)
        plan = plan.altered(caution=caution)
    try:
        people = [plan.person(person)] if person else list(plan.people)
    except NotThereError:
        known = ", ".join(each.id for each in plan.people)
        raise typer.BadParameter(f"no person {person!r}; there are {known}") from None
    supply = _supply(database)
    wish = Wish(objective=next(each for each in OBJECTIVES if each == objective))
    some: tuple[Source, ...] = tuple(each for each in SOURCES if each in wanted)
    timeline = build_timeline(plan)
    if steps is None:
        steps = STEPS if person else 0
    found: list[dict[str, Any]] = []
    with solver_silent():
        for each in people:
            began = time.monotonic()
            question = Question(plan, each, timeline, supply, some, wish)
            proposal = with_milder(lightest(question, _clock(seconds)), plan)
            proposal = replace(proposal, seconds=time.monotonic() - began)
            found.append(_document(proposal))
            if steps > 1:
                by_grams = replace(question, wish=Wish())
                treads = frontier(by_grams, _clock(seconds / STEP_PARTS), steps)
                found[-1]["frontier"] = [_tread(tread) for tread in treads]
    document: dict[str, Any] = {
        "course": plan.name,
        "caution": plan.caution,
        "sources": list(some),
        "people": found,
    }
    if not person:
        from caldarium.core.lighten.group_choice import lightest_group

        with solver_silent():
            document["group"] = _group(lightest_group(plan, timeline, supply, some))
    typer.echo(json.dumps(document, ensure_ascii=False))


def _refuse_unknown(name: str, wanted: list[str], known: tuple[str, ...]) -> None:
    for each in wanted:
        if each not in known:
            raise typer.BadParameter(f"no {name} {each!r}; there are {', '.join(known)}")


def _supply(database: Path | None) -> "Supply":
    """The catalogue, and the store of a database where one is named."""
    from caldarium.catalogue import load_catalogue
    from caldarium.core.stock.supply import Supply

    if database is None:
        return Supply(everything=load_catalogue().everything)
    if not database.exists():
        raise typer.BadParameter(f"no database at {database}")
    from caldarium.store.database import open_database
    from caldarium.store.pieces import Pieces

    return Supply(Pieces(open_database(database)).all(), everything=load_catalogue().everything)


def _clock(seconds: float) -> Any:
    """Hears one search after another, each for so long."""
    now: list[tuple[Search, float]] = []

    def heard(search: "Search") -> bool:
        if not now or now[0][0] is not search:
            now[:] = [(search, time.monotonic())]
        return time.monotonic() - now[0][1] < seconds

    return heard


def _document(found: "Proposal") -> dict[str, Any]:
    from caldarium.core.lighten.offers import own_pieces

    after = found.after
    grams = found.plain
    return {
        "person": found.before.id,
        "chosen": [] if after is None else [piece.id for piece in own_pieces(after)],
        "grams": None if after is None else found.grams,
        "grams_before": found.grams_before,
        "cost": found.cost,
        "bound": found.bound if grams and found.bound > 0 else None,
        "proven": found.proven,
        "incoming": [
            {"id": each.key, "name": each.piece.name, "source": each.source, "cost": each.cost}
            for each in found.incoming
        ],
        "outgoing": [piece.id for piece in found.outgoing],
        "closes": sorted([moment, kind] for moment, kind in found.closes),
        "beyond": sorted([moment, kind] for moment, kind in found.beyond),
        "milder": [
            {"deviations": each, "fails": sorted([moment, kind] for moment, kind in failing)}
            for each, failing in found.milder
        ],
        "why": [
            {
                "id": each.key,
                "rule": _rule_name(each.rule),
                "moment": each.lack.moment if each.lack else None,
                "kind": each.lack.kind if each.lack else None,
                "short": each.lack.much if each.lack else None,
                "lighter": each.lost[0].piece.id if each.lost else None,
                "saves_g": each.lost[0].saves_g if each.lost else None,
                "lost": [
                    {
                        "id": one.piece.id,
                        "saves_g": one.saves_g,
                        "rule": _rule_name(one.rule),
                        "moment": one.lack.moment if one.lack else None,
                        "kind": one.lack.kind if one.lack else None,
                        "short": one.lack.much if one.lack else None,
                    }
                    for one in each.lost
                ],
            }
            for each in found.reasons
        ],
        "offered": found.offered,
        "seconds": round(found.seconds, 3),
        "frontier": [],
    }


def _rule_name(rule: "Rule | str | None") -> str | None:
    return rule if rule is None or isinstance(rule, str) else rule.name


def _group(found: "GroupChoice") -> dict[str, Any]:
    return {
        "pieces": [
            {
                "id": each.after.id,
                "name": each.after.name,
                "instead": each.before.name if each.before and each.changed else None,
                "new": each.before is None,
                "source": each.source,
                "count": each.count,
                "grams": each.grams,
                "lines": [list(line) for line in each.lines],
            }
            for each in found.places
        ],
        "grams": found.grams,
        "grams_before": found.grams_before,
        "unmet": [list(line) for line in found.unmet],
        "proven": found.proven,
    }


def _tread(tread: "Tread") -> dict[str, Any]:
    return {
        "deviations": tread.deviations,
        "low_c": None if math.isnan(tread.worst.low) else tread.worst.low,
        "wind_ms": tread.worst.wind,
        "rain_mm": tread.worst.rain,
        "grams": tread.grams,
        "bound": tread.proposal.bound,
        "proven": tread.proposal.proven,
        "incoming": list(tread.incoming),
        "outgoing": list(tread.outgoing),
    }


def add_to(app: typer.Typer) -> None:
    """Put this command under its fixed name."""
    app.command("lighten")(lighten)
