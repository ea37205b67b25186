"""Coordinates as kilometres, and which of them cannot be right: exchanged, in the sea, far from everything else."""

from collections.abc import Iterable, Mapping, Sequence
from math import cos, hypot, radians
from statistics import median

from dorrik.core.basics.record import record
from dorrik.core.work.visit_plan import Place

#: Kilometres of a degree of latitude, and of a degree of longitude at the equator (mean Earth, WGS 84).
_KM_NORTH, _KM_EAST = 110.574, 111.320
#: A home so far from the middle of a firm's others is not one that it drives to (kilometres).
FAR_KM = 150.0

#: Latitudes and longitudes between which each nation lies, its islands with it.
_BOUNDS: Mapping[str, tuple[float, float, float, float]] = {
    "England": (49.8, 55.9, -6.5, 1.8),
    "Scotland": (54.6, 60.9, -8.7, -0.7),
    "Wales": (51.3, 53.5, -5.4, -2.6),
    "Northern Ireland": (54.0, 55.4, -8.2, -5.4),
    "Ireland": (51.4, 55.5, -10.7, -5.9),
}


@record
class MapSpot:
    """Where something is by its coordinates (degrees, WGS 84); None where nobody knows. nation: of the property, ''
    where nothing says it."""

    name: str
    latitude: float | None
    longitude: float | None
    nation: str = ""


def doubts(spots: Iterable[MapSpot]) -> dict[str, str]:
    """Coordinates that cannot be right, by the name of their spot: why, in words. Those without any are not in it."""
    known = [spot for spot in spots if spot.latitude is not None and spot.longitude is not None]
    wrong = {spot.name: why for spot in known if (why := _alone(spot))}
    sound = [spot for spot in known if spot.name not in wrong]
    if len(sound) < 3:
        return wrong
    middle = _middle(sound)
    for spot in sound:
        km = _km(spot, middle)
        if km > FAR_KM:
            wrong[spot.name] = f"{km:.0f} km away from the others. Check latitude and longitude."
    return wrong


def places(spots: Sequence[MapSpot]) -> dict[str, Place]:
    """Where each spot is, in kilometres east and north of the middle of all; what is doubtful counts as not known."""
    wrong = doubts(spots)
    known = [spot for spot in spots if spot.latitude is not None and spot.name not in wrong]
    north, east = _middle(known) if known else (0.0, 0.0)
    by_code = {}
    for spot in spots:
        if spot.latitude is None or spot.longitude is None or spot.name in wrong:
            by_code[spot.name] = Place(spot.name)
            continue
        km_east = (spot.longitude - east) * _KM_EAST * cos(radians(north))
        by_code[spot.name] = Place(spot.name, km_east, (spot.latitude - north) * _KM_NORTH)
    return by_code


def _alone(spot: MapSpot) -> str | None:
    """What is wrong with coordinates by themselves."""
    latitude, longitude = spot.latitude or 0.0, spot.longitude or 0.0
    bounds = [_BOUNDS[spot.nation]] if spot.nation in _BOUNDS else list(_BOUNDS.values())
    if any(_within(latitude, longitude, one) for one in bounds):
        return None
    if any(_within(longitude, latitude, one) for one in bounds):
        return "Latitude and longitude are swapped."
    if any(_within(latitude, -longitude, one) for one in bounds):
        return "West of Greenwich, longitude is less than zero: the sign is missing."
    return f"Not in {spot.nation}." if spot.nation in _BOUNDS else "In the sea, or abroad."


def _within(latitude: float, longitude: float, bounds: tuple[float, float, float, float]) -> bool:
    south, north, west, east = bounds
    return south <= latitude <= north and west <= longitude <= east


def _middle(spots: Sequence[MapSpot]) -> tuple[float, float]:
    return median(spot.latitude or 0.0 for spot in spots), median(spot.longitude or 0.0 for spot in spots)


def _km(spot: MapSpot, middle: tuple[float, float]) -> float:
    north = ((spot.latitude or 0.0) - middle[0]) * _KM_NORTH
    east = ((spot.longitude or 0.0) - middle[1]) * _KM_EAST * cos(radians(middle[0]))
    return hypot(north, east)
