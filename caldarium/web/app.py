"""The application: routers, templates, static files with content hashes, strict headers."""

import hashlib
import os
from functools import lru_cache
from pathlib import Path

from fastapi import FastAPI
from starlette.middleware.gzip import GZipMiddleware

from caldarium.store.checks import Checks
from caldarium.store.courses import Courses
from caldarium.store.csv_columns import CsvColumns
from caldarium.store.database import open_database
from caldarium.store.gear_lists import GearLists
from caldarium.store.kit_sets import KitSets
from caldarium.store.logs import Logs
from caldarium.store.pieces import Pieces
from caldarium.web import history, preferences
from caldarium.web.answers import ANSWERS
from caldarium.web.check import handed, laid_out, lists_asked, own_list, record, table
from caldarium.web.day import bench, group, hours, outfits, story, strip_table
from caldarium.web.guard import Guard, HashedFiles
from caldarium.web.lighten import lighten
from caldarium.web.load import air, food, lists, load
from caldarium.web.log import debrief, diary, learned, nights, papers, right, season, thermometers
from caldarium.web.night import night, shelter
from caldarium.web.pack import pack
from caldarium.web.plan import about, backup, courses, kit, overview, people
from caldarium.web.stock import missing, store, store_import, weigh
from caldarium.web.stock.lending import Lending
from caldarium.web.weather import climate, compare, gpx, route, sources
from caldarium.web.work import Answering, Works

HERE = Path(__file__).parent


@lru_cache(maxsize=64)
def static_url(name: str) -> str:
    """Address of a static file with its content hash."""
    digest = hashlib.sha256((HERE / "static" / name).read_bytes()).hexdigest()[:12]
    return f"/static/{name}?v={digest}"


def from_environment() -> FastAPI:
    """The application on the database that CALDARIUM_DATABASE names, for a server that reloads."""
    return create_app(Path(os.environ["CALDARIUM_DATABASE"]))


def create_app(database: Path) -> FastAPI:
    """The application on one database file."""
    app = FastAPI(title="Caldarium", docs_url=None, redoc_url=None, openapi_url=None)
    engine = open_database(database)
    app.state.engine, app.state.database = engine, database
    app.state.courses = Courses(engine)
    app.state.pieces = Pieces(engine)
    app.state.kit_sets = KitSets(engine)
    app.state.csv_columns = CsvColumns(engine)
    app.state.gear_lists = GearLists(engine)
    app.state.checks = Checks(engine)
    app.state.logs = Logs(engine)
    app.state.lending = Lending(app.state.courses)
    app.state.gear_files = {}
    app.state.scales = weigh.Bench()
    app.state.static_url = static_url
    app.state.assessed = {}
    app.state.idle = {}
    app.state.judged = {}
    app.state.logged = {}
    answering = Answering()
    app.state.works = Works(answering)
    app.state.packs = {}
    app.state.stories = story.Stories()
    app.state.ways = gpx.Ways()
    app.mount("/static", HashedFiles(directory=HERE / "static"), name="static")
    for room in (
        history,
        preferences,
        backup,
        courses,
        overview,
        about,
        bench,
        route,
        compare,
        sources,
        gpx,
        group,
        outfits,
        night,
        shelter,
        story,
        strip_table,
        hours,
        people,
        kit,
        climate,
        missing,
        store,
        store_import,
        load,
        food,
        lists,
        air,
        weigh,
        lighten,
        pack,
        lists_asked,
        table,
        handed,
        laid_out,
        record,
        own_list,
        nights,
        diary,
        thermometers,
        learned,
        right,
        papers,
        debrief,
        season,
    ):
        app.include_router(room.router)

    for fault, answer in ANSWERS.items():
        app.add_exception_handler(fault, answer)
    app.add_middleware(GZipMiddleware, minimum_size=2000, compresslevel=2)
    app.add_middleware(Guard, answering=answering)
    return app
