"""Speed in one run on one machine, as ratios where there is something to compare with.

Run with `make benchmark`. Figures vary with the machine and what else it does; they are medians.
"""

import socket
import subprocess
import sys
import tempfile
import time
from collections import deque
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from datetime import date
from pathlib import Path
from statistics import median

import gpxpy
import httpx
import numpy as np
import pvlib
from fastapi.testclient import TestClient
from pythermalcomfort.models import JOS3, ireq

from caldarium.catalogue import load_catalogue
from caldarium.core.assess import assess
from caldarium.core.day.day_heat import day_story, steps_of
from caldarium.core.load.loads import party_loads
from caldarium.core.load.share import fair_split
from caldarium.core.night.beds import lay_beds
from caldarium.core.night.nights import night_results
from caldarium.core.physics import cold
from caldarium.core.physics.body import Around, Bodies
from caldarium.core.physics.quantities import CLO
from caldarium.core.physics.segments import SEGMENTS
from caldarium.core.plan.changes import add_piece, with_person
from caldarium.core.plan.course import Course
from caldarium.core.plan.kit import GroupKit
from caldarium.core.plan.track import parts
from caldarium.core.plan.wardrobe import wardrobes
from caldarium.core.plan.way_legs import proposed_cuts
from caldarium.core.reassess import Assessed, reassess
from caldarium.core.stock.issue import give
from caldarium.core.timeline.climate import planning_values
from caldarium.core.timeline.moments import build_timeline
from caldarium.core.what_if.bed_changes import choices, ranked
from caldarium.core.what_if.idle import idle_pieces
from caldarium.demo import demo_course
from caldarium.formats.climate_files import read_climate
from caldarium.formats.gear_csv import read_gear
from caldarium.formats.gpx_files import read_gpx
from caldarium.web.app import create_app

COUNT = 100_000


def seconds(action: Callable[[], object], times: int = 9) -> float:
    """Median time of one call, after one to warm up."""
    action()
    spent: list[float] = []
    for _ in range(times):
        start = time.perf_counter()
        action()
        spent.append(time.perf_counter() - start)
    return median(spent)


def required_insulation() -> None:
    """IREQ at random conditions against the reference library, warm."""
    rng = np.random.default_rng(1)
    rate = rng.uniform(58.2, 400, COUNT)
    air, wind = rng.uniform(-50, 10, COUNT), rng.uniform(0.4, 18, COUNT)
    humidity, permeability = rng.uniform(0, 100, COUNT), rng.uniform(1, 1000, COUNT)
    walking = rng.uniform(np.minimum(0.0052 * (rate - 58), 1.2), 1.2)

    def ours() -> list[np.ndarray]:
        where = cold.exposure(air, wind, humidity, rate, walking)
        needs = [cold.required_insulation(c, where) for c in (cold.MINIMAL, cold.NEUTRAL)]
        worn = cold.resultant_insulation(2 * CLO, where, permeability)
        for criterion, need in zip((cold.MINIMAL, cold.NEUTRAL), needs, strict=True):
            cold.basic_insulation(need, where, permeability)
            cold.duration_limited_exposure(criterion, worn, where)
        return [need / CLO for need in needs]

    def theirs() -> object:
        return ireq(
            tdb=air,
            tr=air,
            vr=wind,
            rh=humidity,
            met=rate / 58.15,
            clo=np.full(COUNT, 2.0),
            p=permeability,
            walk_sp=walking,
            round_output=False,
        )

    fast, slow = seconds(ours, 5), seconds(theirs, 3)
    reference = theirs()
    largest = max(
        float(np.nanmax(np.abs(mine - getattr(reference, f"ireq_{name}"))))
        for mine, name in zip(ours(), ("min", "neutral"), strict=True)
    )
    print(
        f"ISO 11079, {COUNT:,} conditions: {fast:.2f} s here, {slow:.2f} s in the library, "
        f"ratio {slow / fast:.0f}; largest difference {largest:.5f} clo"
    )


def body_in_time() -> None:
    """An hour of the body for people together, against the published one, a person each."""
    rows = 50
    bodies = Bodies(np.linspace(50, 95, rows), np.linspace(1.55, 1.95, rows))
    shape = (rows, len(SEGMENTS))
    where = Around(
        operative=np.zeros(shape),
        air=np.zeros(rows),
        vapour=np.full(rows, 0.3),
        sensible=np.full(shape, 0.3),
        evaporative=np.full(shape, 0.05),
        metabolic_rate=np.full(rows, 110.0),
        work=np.zeros(rows),
    )
    spans = np.broadcast_to(steps_of(1.0), (rows, len(steps_of(1.0))))
    published = JOS3()
    published.tdb = published.tr = 0.0

    def ours() -> None:
        deque(bodies.through(bodies.rested(), where, spans), maxlen=0)

    fast = seconds(ours, 5) / rows
    slow = seconds(lambda: published.simulate(60), 3)
    print(
        f"an hour of the body: {1000 * fast:.2f} ms a person here, {1000 * slow:.0f} ms in the "
        f"library, ratio {slow / fast:.0f}"
    )


@contextmanager
def served() -> Iterator[httpx.Client]:
    """The demo course behind the real server, and a wide browser's connection to it."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    script = "from caldarium.cli import main; main()"
    with (
        tempfile.TemporaryDirectory() as room,
        httpx.Client(
            base_url=f"http://127.0.0.1:{port}",
            cookies={"window": "wide"},
            timeout=20,
            follow_redirects=True,
        ) as client,
    ):
        words = ["demo", "--database", f"{room}/speed.sqlite", "--port", str(port)]
        server = subprocess.Popen([sys.executable, "-c", script, *words], stdout=subprocess.DEVNULL)
        try:
            while True:
                try:
                    client.get("/").raise_for_status()
                    break
                except httpx.TransportError:
                    time.sleep(0.01)
            yield client
        finally:
            server.terminate()
            server.wait()


def answered(client: httpx.Client, address: str, forms: Iterable[dict[str, str]]) -> str:
    """Median and slowest of edits sent one after another, after four to warm up."""
    spent: list[float] = []
    for form in forms:
        start = time.perf_counter()
        client.post(address, data=form, headers={"HX-Request": "true"}).raise_for_status()
        spent.append(1000 * (time.perf_counter() - start))
    return f"{median(spent[4:]):.0f} ms, slowest {max(spent[4:]):.0f} ms"


def edits() -> None:
    """The assessment alone, and whole edits answered by the server over its socket."""
    course = demo_course()
    print(f"assessment of the demo course: {1000 * seconds(lambda: assess(course), 25):.0f} ms")
    here = {"person": "mirel", "moment": "3.north-top.halt", "day": "2"}
    turns = range(29)
    with served() as client:
        address = "/courses/1/edit"
        forms = [here | {"wind_ms": f"{5 + turn % 7} m/s"} for turn in turns]
        print(f"an edit of the weather: {answered(client, address, forms)}")
        forms = [here | {"toggle": f"wool-hat={'off' if turn % 2 else 'on'}"} for turn in turns]
        print(f"a piece on or off: {answered(client, address, forms)}")
        forms = [here | {"leg.stone-field.start_h": f"8:{10 + turn}", "zoom": ""} for turn in turns]
        print(f"an edit of one leg: {answered(client, '/courses/1/route/edit', forms)}")
        forms = [
            {"person": "mirel", "night": "2", "hot_bottle_l": f"{turn % 9 / 4}"} for turn in turns
        ]
        print(f"an edit of one bed: {answered(client, '/courses/1/night', forms)}")
        forms = [
            {
                "person": "mirel",
                "day": "1",
                "act": "place",
                "zone.head-torch": "lid" if turn % 2 else "front",
            }
            for turn in turns
        ]
        print(f"a piece moved in a pack: {answered(client, '/courses/1/pack', forms)}")


def pages() -> None:
    """Lists, food and load shown, as shares of an edit of the weather in the same run; idle grams
    of one person and of everybody beside the assessment; and a page among 5,000 pieces and a
    course of 40 people."""
    course = demo_course()
    result = assess(course)
    base = seconds(lambda: assess(course))
    one = seconds(lambda: idle_pieces(course, result, ("wren",)), 5)
    everybody = seconds(lambda: idle_pieces(course, result), 5)
    print(f"idle grams of one person: {one / base:.1f} assessments; of all: {everybody / base:.1f}")
    names = ("lists", "food", "load", "air")
    spent: dict[str, list[float]] = {name: [] for name in ("edit", *names)}
    with served() as client:
        here = {"person": "mirel", "moment": "3.north-top.halt", "day": "2"}
        for turn in range(15):
            start = time.perf_counter()
            form = here | {"wind_ms": f"{5 + turn % 7} m/s"}
            client.post("/courses/1/edit", data=form, headers={"HX-Request": "true"})
            spent["edit"].append(time.perf_counter() - start)
            for name in names:
                start = time.perf_counter()
                client.get(f"/courses/1/{name}?person=mirel").raise_for_status()
                spent[name].append(time.perf_counter() - start)
    edit = median(spent["edit"][3:])
    told = ", ".join(f"{name} {median(spent[name][3:]) / edit:.2f}" for name in names)
    print(f"pages as shares of an edit of the weather ({1000 * edit:.0f} ms): {told}")


def growth() -> None:
    """The assessment with the body's day, and how it grows with people, days and garments."""
    course = demo_course()

    def lived(plan: Course) -> None:
        result = assess(plan)
        for person, found in zip(plan.people, result.people, strict=True):
            for day in range(len(plan.days)):
                day_story(result.timeline, person, found.moments, day, ())

    whole = seconds(lambda: lived(course), 5)
    print(f"the demo course dressed, assessed and lived minute by minute: {whole:.2f} s")
    base = seconds(lambda: assess(course), 15)
    more = tuple(
        person.altered(id=f"{person.id}-{number}")
        for number in range(4)
        for person in course.people
    )
    extra = [piece for piece in load_catalogue().garments.values() if piece.layer == "insulation"]
    laden = course.people
    for piece in extra[:10]:
        laden = tuple(add_piece(person, piece) for person in laden)
    days = (*course.days[:4], *course.days[:4], *course.days[:4], course.days[4])
    for name, plan in (
        ("4 times the people", course.altered(people=more)),
        ("13 days instead of 5", course.altered(days=days)),
        ("10 garments more each", course.altered(people=laden)),
    ):
        print(f"  {name}: {seconds(lambda plan=plan: assess(plan), 5) / base:.1f} times the time")
    before = Assessed(course, assess(course))
    one = with_person(course, add_piece(course.people[0], extra[0]))
    again = seconds(lambda: reassess(one, before), 15)
    print(f"  one person's kit changed: {again / base:.2f} of the time")


def nights() -> None:
    """Every bed hour by hour with its ranked changes, and the night's page at the server."""
    course, shelves = demo_course(), load_catalogue()
    timeline = build_timeline(course)

    def whole() -> None:
        areas = np.full(len(course.people), 1.8)
        beds = lay_beds(course, course.people, timeline, wardrobes(course.people))
        night_results(beds, course.people, areas)
        for person in course.people:
            listed = choices(
                person,
                0,
                shelves.bags.values(),
                list(shelves.pads.values()),
                shelves.liners.values(),
                shelves.covers.values(),
                shelves.garments.values(),
            )
            ranked(course, timeline, person, 0, listed)

    print(f"10 people, 4 nights, hour by hour with ranked changes: {seconds(whole, 5):.2f} s")


def calc() -> None:
    """One figure on the command line, beside importing NumPy alone."""
    words = ["calc", "windchill", "--air", "-25", "--wind-kmh", "30"]
    script = "from caldarium.cli import main; main()"

    def call() -> None:
        subprocess.run([sys.executable, "-c", script, *words], check=True, capture_output=True)

    def numpy_alone() -> None:
        subprocess.run([sys.executable, "-c", "import numpy"], check=True)

    ours, least = seconds(call), seconds(numpy_alone)
    print(f"caldarium calc: {ours:.2f} s, {ours / least:.2f} times importing NumPy alone")


def first_page() -> None:
    """From starting the command to the demo course's whole bench, beside importing NumPy alone."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    address = f"http://127.0.0.1:{port}/courses/1"
    spent: list[float] = []
    with tempfile.TemporaryDirectory() as room:
        words = ["demo", "--database", f"{room}/first.sqlite", "--port", str(port)]
        script = "from caldarium.cli import main; main()"
        for _ in range(5):
            start = time.perf_counter()
            server = subprocess.Popen(
                [sys.executable, "-c", script, *words], stdout=subprocess.DEVNULL
            )
            try:
                while True:
                    try:
                        httpx.get(address, timeout=20).raise_for_status()
                        break
                    except httpx.TransportError:
                        time.sleep(0.01)
                spent.append(time.perf_counter() - start)
            finally:
                server.terminate()
                server.wait()
    print(
        f"start to first page: {spent[0]:.2f} s with a new database, {median(spent[1:]):.2f} s "
        "with one that is there"
    )


def weather_and_ways() -> None:
    """Climate window, a way of 100,000 points beside gpxpy's reading alone, and one leg's edit."""
    data = (Path(pvlib.__file__).parent / "data" / "703165TY.csv").read_bytes()

    def window() -> None:
        planning_values(read_climate(data), date(2026, 9, 21), 14)

    print(f"a year of hourly climate for 14 days: {1000 * seconds(window, 5):.0f} ms")
    points = "".join(
        f'<trkpt lat="{60 + at * 1e-5:.5f}" lon="20"><ele>{500 + 40 * np.sin(at / 900):.1f}</ele>'
        f"<time>2026-09-21T{at // 3600 % 24:02d}:{at // 60 % 60:02d}:{at % 60:02d}Z</time></trkpt>"
        for at in range(COUNT)
    )
    way = (
        '<?xml version="1.0"?><gpx version="1.1" creator="speed" '
        f'xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>{points}</trkseg></trk></gpx>'
    )

    def read() -> None:
        track = read_gpx(way.encode())
        parts(track, [cut.at for cut in proposed_cuts(track, 5)])

    ours, theirs = seconds(read, 3), seconds(lambda: gpxpy.parse(way), 1)
    print(
        f"a way of {COUNT:,} points read, smoothed and cut: {ours:.2f} s, "
        f"{ours / theirs:.2f} times gpxpy's reading alone"
    )


def store_and_load() -> None:
    """5,000 pieces found, shown and read; loads of 12 people over 14 days; 60 pieces among 12."""
    rows = "".join(f"T-{at},piece {at},comfort,{100 + at % 900}\n" for at in range(5000))
    data = f"tag,name,kind,mass\n{rows}".encode()
    with tempfile.TemporaryDirectory() as room:
        app = create_app(Path(room) / "speed.sqlite")
        client = TestClient(app, base_url="http://127.0.0.1")
        start = time.perf_counter()
        app.state.pieces.put([row.piece for row in read_gear(data).rows], "read")
        print(f"5,000 rows read and written: {time.perf_counter() - start:.2f} s")
        found = seconds(lambda: app.state.pieces.find("piece 49"))
        page = seconds(lambda: client.get("/store?q=piece+4"))
        print(f"a search among them {1000 * found:.0f} ms, its page {1000 * page:.0f} ms")
        many = tuple(
            each.altered(id=f"{each.id}-{number}")
            for number in range(4)
            for each in demo_course().people
        )
        course = demo_course().altered(people=many)
        stored = app.state.pieces.all()
        for at, piece in enumerate(stored[:200]):
            course = give(course, many[at % 40].id, piece, {})
        number = app.state.courses.add(course, "made")
        empty = page
        page = seconds(lambda: client.get("/store?q=piece+4"))
        print(f"  with 200 of them lent to 40 people: {page / empty:.2f} times that page")
        listed = seconds(lambda: client.get(f"/courses/{number}/lists"), 3)
        print(f"  the list of one of the 40: {1000 * listed:.0f} ms")
    course = demo_course()
    more = tuple(p.altered(id=f"{p.id}-2") for p in course.people[:2])
    days = (*course.days[:4], *course.days[:4], *course.days[:4], course.days[2], course.days[4])
    large = course.altered(people=(*course.people, *more), days=days)
    timeline = build_timeline(large)
    awake = [each for each in timeline.moments if each.kind != "night"]
    worn = np.full((len(large.people), len(awake)), 3000.0)
    spent = seconds(lambda: party_loads(large, large.people, timeline, worn, awake), 5)
    print(f"loads of 12 people, 14 days, by hour: {1000 * spent:.0f} ms")
    rng = np.random.default_rng(5)
    kit = tuple(
        GroupKit(id=f"k{at}", name="piece", mass_g=int(grams))
        for at, grams in enumerate(rng.integers(50, 1500, 60))
    )
    shared = large.altered(group=kit)
    base = rng.uniform(10, 16, 12).tolist()
    budgets = [0.25 * person.body_mass_kg for person in shared.people]
    split = fair_split(shared, base, budgets, "share of body mass")
    spent = seconds(lambda: fair_split(shared, base, budgets, "share of body mass"), 5)
    proven = "proven" if split.proven else "NOT proven"
    print(f"60 pieces split among 12: {1000 * spent:.0f} ms, {proven}")


if __name__ == "__main__":
    required_insulation()
    body_in_time()
    edits()
    pages()
    growth()
    nights()
    store_and_load()
    weather_and_ways()
    calc()
    first_page()
