"""Boundaries from GeoJSON, GPX (tracks, routes or waypoints) and KML."""

import json
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from geojson_pydantic import Feature, FeatureCollection, MultiPolygon, Polygon
from lxml import etree
from pydantic import TypeAdapter, ValidationError
from shapely.geometry import LineString

from ulmatic.core.survey.shapes.walked import turned
from ulmatic.formats.files import FileRefused, plain_xml, text_of

LEAST_POINTS = 3
MOST_BOUNDARIES = 500
MOST_MARKS = {
    b"<trkpt": 20_000,
    b"<rtept": 20_000,
    b"<wpt": 20_000,
    b"<Placemark": 1_000,
    b"<coordinates": 2_000,
    b'"Feature"': 2_000,
}
"""How often these may stand in a file, counted before anything reads it."""
MOST_POINTS = 20_000
"""In all boundaries of a file."""
_LONG = 2_000
"""Points of a ring from which on it is thinned before it is looked at for crossings of its own."""
_METRES_PER_DEGREE = 111_000
_NOISE_M = 0.5
"""Points nearer than this to the line between their neighbours say nothing about the ground."""


@dataclass(frozen=True)
class Boundary:
    """A named ring of (latitude, longitude) in degrees."""

    name: str
    points_deg: tuple[tuple[float, float], ...]


_Geometry = Polygon | MultiPolygon
_GEOJSON: TypeAdapter[Any] = TypeAdapter(
    FeatureCollection[Feature[_Geometry, dict[str, Any]]] | Feature[_Geometry, dict[str, Any]] | _Geometry
)


def read_boundaries(name: str, content: bytes) -> list[Boundary]:
    """Read every boundary in a file.

    Parameters
    ----------
    name : str
        The file's name; its ending says what it is.
    content : bytes
        Of the whole file.

    Raises
    ------
    FileRefused
        With a sentence, where the file is not what its ending says, or holds no boundary.
    """
    ending = name.lower().rsplit(".", 1)[-1]
    if any(content.count(mark) > most for mark, most in MOST_MARKS.items()):
        raise FileRefused("This file has too many points or places for one site. Keep only what is needed.")
    readers = {"geojson": _geojson, "json": _geojson, "gpx": _gpx, "kml": _kml}
    if ending not in readers:
        raise FileRefused("Boundaries are read from .geojson, .gpx and .kml files.")
    rings = list(readers[ending](content))
    if sum(len(ring) for _, ring in rings) > MOST_POINTS:
        raise FileRefused(f"This file has more than {MOST_POINTS:,} points; keep only what is needed.")
    boundaries = [
        Boundary(title[:80].strip() or "Boundary", ring)
        for title, ring in ((title, _tidied(ring)) for title, ring in rings)
        if len(ring) >= LEAST_POINTS
    ]
    if not boundaries:
        raise FileRefused("No boundary was found in this file: a polygon, a track or three waypoints are needed.")
    if len(boundaries) > MOST_BOUNDARIES:
        raise FileRefused(f"This file has more than {MOST_BOUNDARIES} boundaries; split it.")
    return boundaries


def _tidied(ring: list[tuple[float, float]]) -> tuple[tuple[float, float], ...]:
    """Return a ring without its repeated end and without points that only follow a straight line."""
    if len(ring) > 1 and ring[0] == ring[-1]:
        ring = ring[:-1]
    if len(ring) <= 4:
        return tuple(ring)
    # Counted on from the first point, so that the 180th meridian parts nothing.
    on = [(latitude, ring[0][1] + turned(longitude - ring[0][1])) for latitude, longitude in ring]
    noise = _NOISE_M / _METRES_PER_DEGREE
    line = LineString([*on, on[0]])
    thinned = line.simplify(noise / 4, preserve_topology=False) if len(ring) > _LONG else line
    corners = thinned.simplify(noise).coords[:-1]
    return tuple((point[0], turned(point[1])) for point in corners) if len(corners) >= LEAST_POINTS else tuple(ring)


def _geojson(content: bytes) -> Iterator[tuple[str, list[tuple[float, float]]]]:
    try:
        parsed = _GEOJSON.validate_python(json.loads(text_of(content)))
    except (json.JSONDecodeError, RecursionError):
        raise FileRefused("This file is not GeoJSON: it cannot be read as JSON.") from None
    except ValidationError:
        raise FileRefused(
            "This GeoJSON contains something other than polygons, or a polygon that is not closed."
        ) from None
    features = parsed.features if isinstance(parsed, FeatureCollection) else [parsed]
    for number, feature in enumerate(features, 1):
        is_feature = isinstance(feature, Feature)
        geometry = feature.geometry if is_feature else feature
        titled = (feature.properties or {}).get("name") if is_feature else None
        title = titled if isinstance(titled, str) and titled.isprintable() else f"Boundary {number}"
        polygons = [geometry.coordinates] if isinstance(geometry, Polygon) else list(geometry.coordinates)
        for polygon in polygons:
            yield title, [(float(position[1]), float(position[0])) for position in polygon[0]]


def _gpx(content: bytes) -> Iterator[tuple[str, list[tuple[float, float]]]]:
    import gpxpy
    from gpxpy.gpx import GPXException

    try:
        parsed = gpxpy.parse(plain_xml(content).decode())
    except (GPXException, ValueError, AttributeError) as error:
        if isinstance(error, FileRefused):
            raise
        raise FileRefused("This file cannot be read as GPX.") from None
    for number, track in enumerate(parsed.tracks, 1):
        points = [(point.latitude, point.longitude) for segment in track.segments for point in segment.points]
        yield track.name or f"Track {number}", points
    for number, route in enumerate(parsed.routes, 1):
        yield route.name or f"Route {number}", [(point.latitude, point.longitude) for point in route.points]
    if not parsed.tracks and not parsed.routes:
        yield "Waypoints", [(point.latitude, point.longitude) for point in parsed.waypoints]


def _kml(content: bytes) -> Iterator[tuple[str, list[tuple[float, float]]]]:
    try:
        root = etree.fromstring(plain_xml(content), etree.XMLParser(resolve_entities=False, no_network=True))
        if etree.QName(root).localname != "kml":
            raise ValueError
        for number, place in enumerate(root.iter("{*}Placemark"), 1):
            title = place.findtext("{*}name") or f"Place {number}"
            # Of a polygon the outer ring counts; what is cut out of it is not ground of its own.
            for part in place.iter("{*}outerBoundaryIs", "{*}LineString", "{*}LinearRing"):
                if etree.QName(part.getparent()).localname not in ("outerBoundaryIs", "innerBoundaryIs"):
                    positions = (text.split(",") for text in (part.findtext(".//{*}coordinates") or "").split())
                    yield title, [(float(position[1]), float(position[0])) for position in positions]
    except (etree.XMLSyntaxError, ValueError, IndexError) as error:
        if isinstance(error, FileRefused):
            raise
        raise FileRefused("This file cannot be read as KML.") from None
