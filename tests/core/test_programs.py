"""A solver that could not run is no proof; all that solve here run in one process."""

from collections.abc import Iterator

import highspy
import numpy as np
import pytest

from caldarium.core.assess import assess
from caldarium.core.lighten.rounds import Answer, Search, Task, at_most, search
from caldarium.core.load.loads import Load
from caldarium.core.load.share import split_of
from caldarium.core.plan.course import Course
from caldarium.core.programs import Program
from caldarium.demo import demo_course
from tests.core.lighten.cases import nothing

ONE_OF_TWO = Task(
    np.array([1.0, 2.0]),
    (np.zeros(2), np.ones(2)),
    [at_most(np.array([-1.0, -1.0]), -1.0)],
    lambda _points, _whole: Answer(passed=True),
    nothing,
    nothing,
)


def to_the_end(_: Search) -> bool:
    return True


def one_of_three() -> Program:
    program = Program([3.0, 1.0, 2.0], 5.0)
    program.row([(0, 1.0), (1, 1.0), (2, 1.0)], 1.0, 1.0)
    return program


@pytest.fixture(scope="module")
def loaded() -> tuple[Course, tuple[Load, ...]]:
    course = demo_course("autumn-fell")
    return course, tuple(each.load for each in assess(course).people)


@pytest.fixture
def other_threads() -> Iterator[None]:
    """A process in which something else has taken two threads for the solver."""
    highspy.Highs.resetGlobalScheduler(True)
    other = highspy.Highs()
    other.setOptionValue("output_flag", False)
    other.setOptionValue("threads", 2)
    other.addVars(1, np.zeros(1), np.ones(1))
    other.run()
    yield
    highspy.Highs.resetGlobalScheduler(True)


@pytest.mark.usefixtures("other_threads")
def test_a_solver_that_cannot_run_proves_nothing(loaded: tuple[Course, tuple[Load, ...]]) -> None:
    with pytest.raises(RuntimeError, match="solver failed"):
        search(ONE_OF_TWO, to_the_end)
    with pytest.raises(RuntimeError, match="solver failed"):
        one_of_three().solved()
    with pytest.raises(RuntimeError, match="solver failed"):
        split_of(*loaded, "strength")


def test_whoever_solves_first_leaves_the_others_able_to(
    loaded: tuple[Course, tuple[Load, ...]],
) -> None:
    highspy.Highs.resetGlobalScheduler(True)
    split_of(*loaded, "strength")
    found = search(ONE_OF_TWO, to_the_end)
    assert found.proven
    assert found.best is not None
    assert found.best.tolist() == [1.0, 0.0]
    assert one_of_three().solved() == ([0.0, 1.0, 0.0], 0.0)
