"""What all parts of a course document have in common."""

from typing import Annotated, Self

from pydantic import BaseModel, ConfigDict, Field

from caldarium.core.plan.refusal import refused

Identifier = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]*$", max_length=80)]
Name = Annotated[str, Field(min_length=1, max_length=120)]
Altitude = Annotated[float, Field(ge=-400, le=8000, description="above sea level [m]")]
Celsius = Annotated[float, Field(ge=-60, le=50, description="temperature [°C]")]
Grams = Annotated[float, Field(ge=0, le=60000, description="mass [g]")]


class NotThereError(KeyError):
    """What was asked for by its id is not there.

    Args:
        what: kind of thing, as "person" or "leg".
        id: that was asked for.
    """

    def __init__(self, what: str, identifier: str) -> None:
        self.what, self.identifier = what, identifier
        super().__init__(identifier)


class Value(BaseModel):
    """An immutable part of a course; unknown keys are refused rather than lost."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    def altered(self, **parts: object) -> Self:
        """This value with parts replaced and validated; parts left alone stay the same objects.

        Raises:
            pydantic.ValidationError: where the result is not valid.
        """
        return type(self).model_validate({**dict(self), **parts})


def refuse_twice(identifiers: list[str], what: str, of: str = "") -> None:
    """Refuse an identifier that occurs twice among what somebody or something has.

    Source: none, bookkeeping.
    """
    if len(set(identifiers)) == len(identifiers):
        return
    for identifier in identifiers:
        if identifiers.count(identifier) > 1:
            raise refused("twice", what=what, of=of, id=identifier)
