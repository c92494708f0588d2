"""Time zones: which one a place is in, and how far its clock is ahead of UTC on a date."""

from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from tzfpy import get_tz


def zone_of(latitude: float, longitude: float) -> str:
    """Name of the time zone of a place, by the zone map that ships with tzfpy.

    Args:
        latitude, longitude: degrees north and east.

    Source: the outlines of the zones, OpenStreetMap's, as tzfpy ships them; nautical zones at sea.
    """
    return get_tz(longitude, latitude) or "UTC"


def offset_on(zone: str, day: date) -> float:
    """Hours that a zone's clock is ahead of UTC at noon of a date, daylight saving in it.

    Raises:
        ValueError: where there is no such zone.

    Source: the IANA time zone database.
    """
    try:
        noon = datetime(day.year, day.month, day.day, 12, tzinfo=ZoneInfo(zone))
    except (ZoneInfoNotFoundError, ValueError) as fault:
        raise ValueError(f"“{zone}” is no time zone") from fault
    return (noon.utcoffset() or timedelta()) / timedelta(hours=1)
