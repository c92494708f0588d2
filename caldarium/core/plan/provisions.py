"""What the party eats, drinks and burns: part of the course document."""

from typing import Annotated, Literal

from pydantic import Field

from caldarium.core.plan.value import Grams, Identifier, Name, Value

Stove = Literal["gas", "gas, warmed", "liquid", "alcohol"]
Treated = Literal["as it comes", "filter", "tablets", "boiled"]
Meal = Literal["breakfast", "on the way", "dinner"]


class Dish(Value):
    """Something on the menu for each head, on one day or on every day that has none of its own."""

    id: Identifier
    name: Name
    meal: Meal
    day: int | None = Field(default=None, ge=0, le=20, description="from 0; every day if not given")
    mass_g: Grams
    kcal: float | None = Field(default=None, ge=0, le=10000, description="by its label, a head")
    cooked: bool = Field(default=False, description="cannot be eaten without hot water")


class Provisions(Value):
    """What the whole party's stoves and menu are."""

    stove: Stove = "gas"
    pot_l: float = Field(default=1.5, gt=0, le=20, description="what a pot holds [L]")
    stove_kw: float = Field(default=2.0, gt=0.1, le=20, description="what a flame gives [kW]")
    stoves: int = Field(default=0, ge=0, le=40, description="0 for one for every three heads")
    spare_share: Annotated[float, Field(ge=0, le=2)] = Field(
        default=0.15, description="fuel wanted beyond what is needed"
    )
    treated: Treated = Field(default="as it comes", description="how water is made safe to drink")
    menu: tuple[Dish, ...] = Field(default=(), max_length=120)
