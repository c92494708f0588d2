"""Programs of whole numbers, written row by row and solved by HiGHS."""

from collections.abc import Sequence

import highspy
import numpy as np


class Program:
    """A program of whole numbers being written; what its columns cost is made least.

    Args:
        costs: of its first columns, each of which is 0 or 1.
        seconds: after which the best that was found is taken.
        exact: whether the last ten-thousandth of the cost counts too.

    Source: HiGHS, branch and cut.
    """

    def __init__(self, costs: Sequence[float], seconds: float, *, exact: bool = False) -> None:
        self._highs = highspy.Highs()
        self._highs.setOptionValue("output_flag", False)
        self._highs.setOptionValue("threads", 1)
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
        self._highs.run()
        info = self._highs.getInfo()
        done = self._highs.getModelStatus() == highspy.HighsModelStatus.kOptimal
        return list(self._highs.getSolution().col_value), 0.0 if done else float(info.mip_gap)
