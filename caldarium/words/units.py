"""Units at the edge: how figures are shown, and what each kind of them is counted in."""

import math
from dataclasses import dataclass

UNITS: dict[str, dict[str, tuple[float, float]]] = {
    "temperature": {"c": (1, 0), "f": (5 / 9, -32 * 5 / 9), "k": (1, -273.15)},
    "wind": {
        "m/s": (1, 0), "km/h": (1 / 3.6, 0), "mph": (0.44704, 0), "kn": (1852 / 3600, 0),
    },
    "altitude": {"m": (1, 0), "ft": (0.3048, 0), "km": (1000, 0)},
    "rain": {"mm": (1, 0), "cm": (10, 0), "in": (25.4, 0)},
    "warmth": {"k": (1, 0), "c": (1, 0), "f": (5 / 9, 0)},
    "percent": {"%": (1, 0)},
    "distance": {"km": (1, 0), "m": (0.001, 0), "mi": (1.609344, 0)},
    "mass": {"g": (1, 0), "kg": (1000, 0), "oz": (28.349523125, 0), "lb": (453.59237, 0)},
    "body": {"kg": (1, 0), "lb": (0.45359237, 0), "st": (6.35029318, 0)},
    "height": {"m": (1, 0), "cm": (0.01, 0), "ft": (0.3048, 0), "in": (0.0254, 0)},
    "hours": {"h": (1, 0), "min": (1 / 60, 0)},
    "length": {"mm": (1, 0), "cm": (10, 0), "in": (25.4, 0)},
    "depth": {"cm": (1, 0), "in": (2.54, 0)},
    "pace": {"km/h": (1, 0), "mph": (1.609344, 0), "m/s": (3.6, 0)},
    "minutes": {"min": (1, 0), "h": (60, 0)},
    "volume": {
        "l": (1, 0), "ml": (0.001, 0), "cl": (0.01, 0), "floz": (0.0295735295625, 0),
        "gal": (3.785411784, 0), "qt": (0.946352946, 0), "pt": (0.473176473, 0),
    },
    "breadth": {"cm": (1, 0), "mm": (0.1, 0), "m": (100, 0), "in": (2.54, 0), "ft": (30.48, 0)},
    "span": {"m": (1, 0), "cm": (0.01, 0), "ft": (0.3048, 0), "in": (0.0254, 0)},
    "area": {"m²": (1, 0), "ft²": (0.09290304, 0)},
    "column": {"mm": (1, 0), "m": (1000, 0), "in": (25.4, 0)},
    "share": {"%": (0.01, 0)},
    "lapse": {"k/km": (1, 0)},
    "number": {"": (1, 0)},
}  # fmt: skip
DEFAULT_UNIT = {
    "temperature": "c", "warmth": "k", "wind": "m/s", "altitude": "m", "rain": "mm", "percent": "%",
    "distance": "km", "mass": "g", "body": "kg", "height": "m", "hours": "h", "length": "mm",
    "depth": "cm", "pace": "km/h", "minutes": "min", "volume": "l", "number": "",
    "breadth": "cm", "span": "m", "area": "m²", "column": "mm", "share": "%", "lapse": "k/km",
}  # fmt: skip
CUSTOMARY_UNIT = {
    "temperature": "f", "warmth": "f", "wind": "mph", "altitude": "ft", "rain": "in",
    "mass": "oz", "body": "lb", "height": "ft", "distance": "mi", "length": "in", "depth": "in",
    "pace": "mph", "volume": "floz", "breadth": "in", "span": "ft", "area": "ft²", "column": "in",
}  # fmt: skip
_SHOWN = {
    "c": "°C", "f": "°F", "k": "K", "l": "L", "floz": "fl oz", "k/km": "K/km",
}  # fmt: skip


def unit_of(kind: str, display: "Display") -> str:
    """The unit a bare number means in this display. Source: none, wording."""
    metric = DEFAULT_UNIT[kind]
    return CUSTOMARY_UNIT.get(kind, metric) if display.customary else metric


def unit_name(kind: str, display: "Display") -> str:
    """That unit as it is written. Source: none, wording."""
    return shown_unit(unit_of(kind, display))


def shown_unit(unit: str) -> str:
    """A unit as it is written. Source: NIST SP 811."""
    return _SHOWN.get(unit, unit)


def written(value: float, kind: str, display: "Display") -> str:
    """A value of the core with its unit, as a field shows it. Source: NIST SP 811."""
    if kind == "clock":
        return clock_text(value)
    unit = unit_of(kind, display)
    factor, offset = UNITS[kind][unit]
    figure = f"{(value - offset) / factor:.2f}".rstrip("0").rstrip(".")
    return f"{'0' if figure == '-0' else figure} {unit_name(kind, display)}".strip()


@dataclass(frozen=True)
class Display:
    """How figures are written: metric or US customary."""

    customary: bool = False

    def temperature(self, celsius: float, decimals: int = 0) -> str:
        """Temperature with its unit. Source: NIST SP 811."""
        value = celsius * 9 / 5 + 32 if self.customary else celsius
        return f"{signed(value, decimals)} °{'F' if self.customary else 'C'}"

    def degrees(self, celsius: float) -> str:
        """Temperature as a bare number for an axis. Source: NIST SP 811."""
        return signed(celsius * 9 / 5 + 32 if self.customary else celsius, 0)

    def difference(self, kelvin: float, decimals: int = 0) -> str:
        """Temperature difference with its unit. Source: NIST SP 811."""
        if self.customary:
            return f"{signed(kelvin * 9 / 5, decimals)} °F"
        return f"{signed(kelvin, decimals)} K"

    def wind(self, metres_a_second: float, decimals: int = 0) -> str:
        """Wind speed with its unit. Source: NIST SP 811."""
        if self.customary:
            return f"{metres_a_second / 0.44704:.{decimals}f} mph"
        return f"{metres_a_second:.{decimals}f} m/s"

    def pace(self, metres_a_second: float) -> str:
        """Walking speed with its unit. Source: NIST SP 811."""
        if self.customary:
            return f"{metres_a_second / 0.44704:.1f} mph"
        return f"{metres_a_second * 3.6:.1f} km/h"

    def wind_change(self, metres_a_second: float) -> str:
        """Difference of wind speeds with its sign and unit. Source: NIST SP 811."""
        value = metres_a_second / 0.44704 if self.customary else metres_a_second
        return f"{_plus(value)}{signed(value, 1)} {'mph' if self.customary else 'm/s'}"

    def rain_change(self, millimetres: float) -> str:
        """Difference of depths of rain with its sign and unit. Source: NIST SP 811."""
        value = millimetres / 25.4 if self.customary else millimetres
        decimals = 2 if self.customary else 1
        unit = "in" if self.customary else "mm"
        return f"{_plus(value)}{signed(value, decimals)} {unit}"

    def altitude(self, metres: float) -> str:
        """Altitude with its unit. Source: NIST SP 811."""
        value, unit = (metres / 0.3048, "ft") if self.customary else (metres, "m")
        # A fall of nothing is no negative one.
        return f"{value if abs(value) >= 0.5 else abs(value):,.0f} {unit}"

    def rain(self, millimetres: float) -> str:
        """Depth of rain with its unit. Source: NIST SP 811."""
        if self.customary:
            return f"{millimetres / 25.4:.2f} in"
        return f"{millimetres:.{1 if 0 < millimetres < 10 else 0}f} mm"

    def mass(self, grams: float) -> str:
        """Mass of a piece with its unit. Source: NIST SP 811."""
        if not self.customary:
            return f"{grams:,.0f} g"
        pounds, ounces = divmod(grams / 28.349523125, 16)
        return f"{pounds:.0f} lb {ounces:.1f} oz" if pounds else f"{ounces:.1f} oz"

    def volume(self, litres: float) -> str:
        """Volume of water with its unit. Source: NIST SP 811."""
        if self.customary:
            return f"{litres / 0.0295735295625:.0f} fl oz"
        return f"{litres:.1f} L"

    def distance(self, kilometres: float, decimals: int = 1) -> str:
        """Distance on the way with its unit. Source: NIST SP 811."""
        if self.customary:
            return f"{kilometres / 1.609344:.{decimals}f} mi"
        return f"{kilometres:.{decimals}f} km"

    def lapse(self, kelvin_a_kilometre: float) -> str:
        """How fast air cools with height, with its unit. Source: NIST SP 811."""
        if self.customary:
            return f"{kelvin_a_kilometre * 1.8 * 0.3048:.2f} °F/1,000 ft"
        return f"{kelvin_a_kilometre:g} K/1,000 m"

    def span(self, metres: float, decimals: int = 1) -> str:
        """Length, width or body height with its unit. Source: NIST SP 811."""
        if self.customary:
            feet, inches = divmod(round(metres / 0.0254), 12)
            return f"{feet} ft {inches} in" if feet else f"{inches} in"
        return f"{metres:.{decimals}f} m"

    def breadth(self, centimetres: float) -> str:
        """Breadth of shoulders, pads and bags with its unit. Source: NIST SP 811."""
        if self.customary:
            return f"{centimetres / 2.54:.0f} in"
        return f"{centimetres:.0f} cm"

    def thickness(self, millimetres: float) -> str:
        """Thickness of cloth and loft with its unit. Source: NIST SP 811."""
        if self.customary:
            return f"{millimetres / 25.4:.2f} in"
        return f"{millimetres:g} mm"

    def column(self, millimetres: float) -> str:
        """Water column that cloth holds, with its unit. Source: NIST SP 811."""
        if self.customary:
            return f"{millimetres / 25.4:,.0f} in"
        return f"{millimetres:,.0f} mm"

    def area(self, square_metres: float, decimals: int = 1) -> str:
        """Area of a floor with its unit. Source: NIST SP 811."""
        if self.customary:
            return f"{square_metres / 0.09290304:.{max(decimals - 1, 0)}f} ft²"
        return f"{square_metres:.{decimals}f} m²"

    def snow_load(self, kilograms_a_square_metre: float) -> str:
        """Mass of snow on each unit of a roof. Source: NIST SP 811."""
        if self.customary:
            return f"{kilograms_a_square_metre * 0.09290304 / 0.45359237:.1f} lb/ft²"
        return f"{kilograms_a_square_metre:.0f} kg/m²"

    def load(self, kilograms: float) -> str:
        """Mass of a load with its unit. Source: NIST SP 811."""
        if self.customary:
            return f"{kilograms / 0.45359237:.1f} lb"
        return f"{kilograms:.1f} kg"


def _plus(value: float) -> str:
    return "+" if value > 0.05 else ""


def signed(value: float, decimals: int) -> str:
    """A number with a true minus sign and no negative zero.

    Source: none, typography.
    """
    if not math.isfinite(value):
        return "none"
    text = f"{value:.{decimals}f}"
    if float(text) == 0:
        text = text.lstrip("-")
    return text.replace("-", "\u2212")


def hours_text(hours: float) -> str:
    """A duration in words that fit a sentence.

    Source: none, wording.
    """
    if hours < 1:
        return f"{hours * 60:.0f} min"
    if hours > 24:
        return "over a day"
    return f"{hours:.0f} h" if hours >= 10 else f"{hours:.1f} h".replace(".0 h", " h")


def clock_text(hours: float) -> str:
    """Clock time of hours since midnight.

    Source: none, wording.
    """
    minutes = round(hours * 60) % (24 * 60)
    return f"{minutes // 60:02d}:{minutes % 60:02d}"
