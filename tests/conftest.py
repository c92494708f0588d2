"""Values that many tests start from."""

import pytest

from caldarium.core.assess import Assessment, assess
from caldarium.core.plan.course import Course
from caldarium.demo import demo_course


@pytest.fixture(scope="session")
def demo() -> Course:
    return demo_course()


@pytest.fixture(scope="session")
def demo_result(demo: Course) -> Assessment:
    return assess(demo)
