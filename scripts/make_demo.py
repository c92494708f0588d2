"""Writes the demo courses and the store into caldarium/demo from the catalogue and their plans."""

from pathlib import Path

from demo_plans import autumn_fell, deep_winter, fell_log, high_plateau, hot_canyon, store

from caldarium.formats.course_json import write_course
from caldarium.formats.gear_csv import write_gear

TARGET = Path(__file__).parent.parent / "caldarium" / "demo"
PLANS = {
    "autumn-fell": autumn_fell,
    "deep-winter": deep_winter,
    "high-plateau": high_plateau,
    "hot-canyon": hot_canyon,
}

if __name__ == "__main__":
    shelf = TARGET / "store.csv"
    shelf.write_text(write_gear(store.demo_store()), encoding="utf-8", newline="")
    for name, plan in PLANS.items():
        course = plan.course()
        if name == "autumn-fell":
            course = fell_log.logged(course)
        (TARGET / f"{name}.json").write_text(write_course(course), encoding="utf-8")
