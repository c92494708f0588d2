"""`caldarium calc`: the core's formulas by name.

It answers in under half a second, so it loads the core only: argparse from the standard library
reads its arguments, not the library that the other commands share.
"""

import argparse
import inspect
import json
import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated, Any, NoReturn, get_args, get_type_hints

import numpy as np

from caldarium.core.physics import air as air_room
from caldarium.core.physics import bed as bed_room
from caldarium.core.physics import clothing, cold, effort, wind

COMMANDS: dict[str, Callable[..., None]] = {}


class ArgumentError(ValueError):
    """An argument that cannot be taken, said in one line."""


@dataclass(frozen=True)
class Option:
    """A flag of a command: its help, and its name where that is not the parameter's."""

    help: str
    flag: str | None = None


def command(name: str) -> Callable[[Callable[..., None]], Callable[..., None]]:
    """Register a function as a command; its parameters are its flags."""

    def register(function: Callable[..., None]) -> Callable[..., None]:
        COMMANDS[name] = function
        return function

    return register


class _Parser(argparse.ArgumentParser):
    def error(self, message: str) -> NoReturn:
        raise ArgumentError(message)


def run(arguments: list[str]) -> None:
    """Run one command on its arguments.

    Raises:
        ArgumentError: for arguments that cannot be taken.
    """
    parser = _Parser(prog="caldarium calc", description="One figure from the core, as JSON.")
    rooms = parser.add_subparsers(required=True, metavar=", ".join(COMMANDS))
    for name, function in COMMANDS.items():
        room = rooms.add_parser(name, help=function.__doc__, allow_abbrev=False)
        room.set_defaults(command=function)
        hints = get_type_hints(function, include_extras=True)
        for parameter in inspect.signature(function).parameters.values():
            _add_flag(room, parameter, hints[parameter.name])
    values = vars(parser.parse_args(arguments))
    values.pop("command")(**values)


def _add_flag(room: argparse.ArgumentParser, parameter: inspect.Parameter, hint: Any) -> None:
    kind, option = get_args(hint)
    required = parameter.default is inspect.Parameter.empty
    room.add_argument(
        option.flag or "--" + parameter.name.replace("_", "-"),
        dest=parameter.name,
        help=option.help.replace("%", "%%"),
        type=str if "str" in str(kind) else number,
        action="append" if "list" in str(kind) else "store",
        required=required,
        default=None if required else parameter.default,
    )


def number(text: str) -> float:
    """A finite number from the command line, without loading a validation library."""
    try:
        value = float(text)
    except ValueError:
        raise argparse.ArgumentTypeError(f"{text!r} is not a number") from None
    if not math.isfinite(value):
        raise argparse.ArgumentTypeError(f"{text!r} is not a finite number")
    return value


Air = Annotated[float, Option(help="air temperature [°C]")]
Humidity = Annotated[float, Option(flag="--rh", help="relative humidity [%]")]


def print_figures(figures: dict[str, Any], reasons: dict[str, str]) -> None:
    """One JSON object; a figure that does not exist is null and has its reason."""
    clean = {name: _finite(figure) for name, figure in figures.items()}
    told = {
        name: reasons.get(name, "outside the range of the formula")
        for name, figure in clean.items()
        if figure is None
    }
    print(json.dumps(clean | {"reasons": told}, ensure_ascii=False))


def _finite(figure: Any) -> Any:
    if isinstance(figure, list | str | None):
        return figure
    number = float(figure)
    return number if math.isfinite(number) else None


def _refuse_unless(condition: bool, message: str) -> None:
    if not condition:
        raise ArgumentError(message)


@command("cold")
def cold_need(
    air: Air,
    wind: Annotated[float, Option(help="relative air speed [m/s]")],
    rh: Humidity,
    metabolic_rate: Annotated[float, Option(help="[W/m²]")],
    walking_speed: Annotated[float, Option(help="[m/s]")],
    permeability: Annotated[float, Option(help="outer layer's [l/(m² s)]")],
    clo: Annotated[float | None, Option(help="basic insulation worn [clo]")] = None,
) -> None:
    """Insulation required in the cold and how long what is worn holds (ISO 11079)."""
    _refuse_unless(permeability > 0, "--permeability must be above 0 l/(m² s)")
    _refuse_unless(clo is None or clo >= 0, "--clo must not be negative")
    _refuse_unless(walking_speed >= 0, "--walking-speed must not be negative")
    where = cold.exposure(air, wind, rh, metabolic_rate, walking_speed)
    faults = [reason for reason, fault in cold.range_faults(where).items() if fault == 1]
    figures: dict[str, Any] = {}
    reasons: dict[str, str] = {}
    for criterion, word in ((cold.MINIMAL, "min"), (cold.NEUTRAL, "neutral")):
        needed = cold.required_insulation(criterion, where)
        basic = cold.basic_insulation(needed, where, permeability)
        figures[f"ireq_{word}_clo"] = clothing.to_clo(needed)
        figures[f"icl_{word}_clo"] = clothing.to_clo(basic)
        no_need = "; ".join(faults) or "no clothing is needed at this metabolic rate"
        reasons[f"ireq_{word}_clo"] = reasons[f"icl_{word}_clo"] = no_need
        name = f"dle_{word}_h"
        if clo is None:
            figures[name], reasons[name] = None, "needs --clo"
            continue
        worn = cold.resultant_insulation(clothing.from_clo(clo), where, permeability)
        hours = cold.duration_limited_exposure(criterion, worn, where)
        figures[name] = hours if hours <= 8 else None
        reasons[name] = "; ".join(faults) or "longer than 8 h"
    ordered = ["ireq_min_clo", "ireq_neutral_clo", "icl_min_clo", "icl_neutral_clo"]
    ordered += ["dle_min_h", "dle_neutral_h"]
    print_figures({name: figures[name] for name in ordered}, reasons)


@command("windchill")
def wind_chill(air: Air, wind_kmh: Annotated[float, Option(help="at 10 m [km/h]")]) -> None:
    """Wind chill equivalent temperature and minutes to frostbite of bare skin."""
    _refuse_unless(wind_kmh >= 0, "--wind-kmh must not be negative")
    reasons = {
        "wind_chill_c": "defined at or below 10 °C and from 4.8 km/h",
        "frostbite_minutes": "defined below -15 °C, above 20 km/h, between 2 and 30 min",
    }
    figures = {
        "wind_chill_c": wind.wind_chill(air, wind_kmh),
        "frostbite_minutes": wind.frostbite_time(air, wind_kmh),
    }
    print_figures(figures, reasons)


@command("air")
def air_at(
    air: Air,
    rh: Humidity,
    from_altitude: Annotated[float, Option(help="[m]")],
    altitude: Annotated[float, Option(help="[m]")],
    lapse: Annotated[float, Option(help="[K/km], 5 to 9.8")] = air_room.LAPSE_DEFAULT,
) -> None:
    """Air carried to another height in a standard atmosphere."""
    _refuse_unless(0 <= rh <= 100, "--rh must lie between 0 and 100 %")
    low, high = air_room.LAPSE_RANGE
    _refuse_unless(low <= lapse <= high, f"--lapse must lie between {low} and {high} K/km")
    there = air_room.carry_air(air, rh, from_altitude, altitude, lapse)
    figures = {
        "air_c": there.air,
        "dew_point_c": there.dew_point,
        "pressure_kpa": there.pressure,
        "density_kg_m3": there.density,
        "boiling_c": there.boiling_point,
        "humidity_pct": there.humidity,
    }
    outside = "altitude outside -500 to 9,000 m or temperature outside -60 to 60 °C"
    reasons = dict.fromkeys(figures, outside)
    reasons["dew_point_c"] = "no water vapour" if rh == 0 else outside
    print_figures(figures, reasons)


@command("effort")
def walking(
    body: Annotated[float, Option(help="body mass [kg]")],
    height: Annotated[float, Option(help="[m]")],
    load: Annotated[float, Option(help="worn and carried [kg]")],
    speed: Annotated[float, Option(help="[m/s]")],
    grade: Annotated[float, Option(help="slope [%], downhill negative")],
    terrain: Annotated[float, Option(help="terrain factor")] = 1.0,
) -> None:
    """Metabolic power of walking with a load."""
    _refuse_unless(body > 0 and height > 0, "--body and --height must be above 0")
    _refuse_unless(load >= 0 and speed >= 0, "--load and --speed must not be negative")
    _refuse_unless(terrain >= 1, "--terrain must be 1 or more")
    watts = effort.walking_power(body, load, speed, grade, terrain)
    reason = (
        "defined for body 25 to 200 kg, load up to the body's own mass, "
        "speed up to 2.4 m/s and slope within 40 %"
    )
    figures = {"watts": watts, "watts_m2": watts / effort.body_area(body, height)}
    reasons = {"watts": reason, "watts_m2": reason + ", height 1.2 to 2.3 m"}
    print_figures(figures, reasons)


@command("outfit")
def outfit(
    layer: Annotated[list[str], Option(help="thickness [mm]:share of body covered")],
) -> None:
    """Insulation of garments measured with a ruler, and of all together."""
    garments: list[float] = []
    for text in layer:
        thickness, cover = _layer(text)
        garments.append(float(clothing.garment_insulation(thickness, cover)))
    print_figures(
        {"icl_clo": clothing.ensemble_insulation(np.array(garments)), "garments_clo": garments}, {}
    )


def _layer(text: str) -> tuple[float, float]:
    try:
        thickness, cover = (float(part) for part in text.split(":"))
    except ValueError:
        raise ArgumentError(f"--layer {text!r} is not thickness:share, as in 20:0.55") from None
    low, high = clothing.THICKNESS_RANGE
    _refuse_unless(low < thickness <= high, f"--layer {text!r}: thickness must be in (0, 100] mm")
    _refuse_unless(0 < cover <= 1, f"--layer {text!r}: the share covered must be in (0, 1]")
    return thickness, cover


@command("bed")
def bed(
    pad_r: Annotated[list[float], Option(help="R-value of a pad; repeat for a stack")],
    low: Annotated[float, Option(help="planning low outside [°C]")],
    comfort: Annotated[float | None, Option(help="comfort label [°C]")] = None,
    limit: Annotated[float | None, Option(help="limit label [°C]")] = None,
    ground: Annotated[str, Option(help=", ".join(bed_room.GROUNDS))] = "air",
    clothes_clo: Annotated[float, Option(help="clothes beyond the base layer [clo]")] = 0.0,
    index: Annotated[float, Option(help="0 limit sleeper, 1 comfort sleeper")] = 1.0,
    lift: Annotated[float, Option(help="shelter's inside over outside [K]")] = 0.0,
) -> None:
    """Lowest temperatures of a bed, and the heat that leaves it at the planning low."""
    _refuse_unless((comfort is None) != (limit is None), "give one of --comfort and --limit")
    _refuse_unless(ground in bed_room.GROUNDS, f"--ground is one of {', '.join(bed_room.GROUNDS)}")
    _refuse_unless(min(pad_r) >= 0 and clothes_clo >= 0, "R-values and clo must not be negative")
    _refuse_unless(-2 <= index <= 3, "--index must lie between -2 and 3")
    label, standard = (
        (comfort, bed_room.COMFORT) if comfort is not None else (limit, bed_room.LIMIT)
    )
    assert label is not None
    bag = bed_room.bag_resistance(label, standard)
    made = bed_room.make_bed(bag, tuple(pad_r), ground, clothes_clo, lift)
    sleeper = bed_room.Sleeper(index)
    own = bed_room.lowest_temperature(made, sleeper)
    flow = bed_room.heat_flow(made, sleeper, low)
    area = bed_room.STANDARD_AREA
    figures = {
        "comfort_c": bed_room.lowest_temperature(made, bed_room.COMFORT),
        "limit_c": bed_room.lowest_temperature(made, bed_room.LIMIT),
        "sleeper_c": own,
        "margin_k": low - own,
        "watts_up": flow.up * area,
        "watts_down": flow.down * area,
        "watts_up_m2": flow.up,
        "watts_down_m2": flow.down,
        "body_area_m2": area,
    }
    lowest, highest = bed_room.LABEL_RANGE
    outside = (
        f"label outside {lowest:g} to {highest:g} °C"
        if not np.isfinite(bag)
        else "no balance between -60 and 45 °C"
    )
    print_figures(figures, dict.fromkeys(figures, outside))
