"""Programs of whole numbers, written row by row and solved by HiGHS."""

from collections.abc import Sequence

import highspy
import numpy as np


def quiet_solver() -> highspy.Highs:
    """A solver that prints nothing and works on one thread: HiGHS refuses whoever asks for another
    number than the first of its process did.

    Source: none, settings.
    """
    solver = highspy.Highs()
    solver.setOptionValue("output_flag", False)
    solver.setOptionValue("threads", 1)
    return solver


def proven_best(solver: highspy.Highs) -> bool:
    """Run a solver, and say whether it has an answer that is proven best.

    Raises:
        RuntimeError: where it could not run at all, which proves nothing.

    Source: none, bookkeeping.
    """
    if solver.run() == highspy.HighsStatus.kError:
        raise RuntimeError(f"the solver failed: {solver.getModelStatus()}")
    return solver.getModelStatus() == highspy.HighsModelStatus.kOptimal


class Program:
    """A program of whole numbers being written; what its columns cost is made least.

    Args:
        costs: of its first columns, each of which is 0 or 1.
        seconds: after which the best that was found is taken.
        exact: whether the last ten-thousandth of the cost counts too.

    Source: HiGHS, branch and cut.
    """

    def __init__(self, costs: Sequence[float], seconds: float, *, exact: bool = False) -> None:
        self._highs = quiet_solver()
        self._highs.setOptionValue("time_limit", seconds)
        if exact:
            self._highs.setOptionValue("mip_rel_gap", 0.0)
        self._count = 0
        for each in costs:
            self.whole(each, 1.0)

    def whole(self, each: float, most: float) -> int:
        """A column of whole numbers from 0 to a most; its place."""
        at = self.slack(each, most)
        self._highs.changeColIntegrality(at, highspy.HighsVarType.kInteger)
        return at

    def slack(self, each: float, most: float) -> int:
        """A column that gives way, at a cost; its place."""
        self._highs.addVar(0.0, most)
        self._highs.changeColCost(self._count, each)
        self._count += 1
        return self._count - 1

    def row(self, weights: Sequence[tuple[int, float]], least: float, most: float) -> None:
        """A row of weights by column, and between what their sum must be."""
        columns = np.array([at for at, _ in weights], dtype=np.int32)
        figures = np.array([weight for _, weight in weights], dtype=np.float64)
        self._highs.addRow(least, most, len(columns), columns, figures)

    def solved(self) -> tuple[list[float], float]:
        """Values of the columns, and the gap that is left."""
        done = proven_best(self._highs)
        info = self._highs.getInfo()
        return list(self._highs.getSolution().col_value), 0.0 if done else float(info.mip_gap)
