"""Sites and plots in and out of files."""

import json
from collections.abc import Callable, Mapping
from typing import Any
from uuid import UUID, uuid5

from pydantic import TypeAdapter, ValidationError
from shapely import affinity
from shapely.geometry import box, mapping

from ulmatic.accounts.scope import Scope
from ulmatic.core.recipe import PlannedPlot
from ulmatic.core.recipe.practice import DepthMeans
from ulmatic.core.schedule import Rule
from ulmatic.core.site import SiteState
from ulmatic.core.survey import Place, Use, Way, to_earth, to_plan
from ulmatic.core.survey.ground import at_place, centred, placed_cuts
from ulmatic.core.survey.shapes import Walked
from ulmatic.core.units.parsing import number_text
from ulmatic.formats import FileRefused
from ulmatic.formats.cells import write_csv, write_xlsx
from ulmatic.formats.recipe_cells import RULE_EXAMPLES
from ulmatic.formats.tables import (
    COLUMNS,
    USE_WORDS,
    PlotInTable,
    Row,
    UnknownHeadings,
    heading_of,
    read_rows,
    rows_of,
)
from ulmatic.platform.problems import Problem, Sentences
from ulmatic.records.survey import PlotRow, SiteRow
from ulmatic.site import ledger as log
from ulmatic.site.schemas import Import, ImportColumn, ImportedPlot, LandmarkOut, RowError, SiteOut
from ulmatic.site.shelf import Shelf, material_of, shelf
from ulmatic.site.snapshot import snapshot_of
from ulmatic.survey import service, sheets
from ulmatic.survey.schemas import NewPlot, PlotOut, SiteSheet

TABLES = (".csv", ".xlsx")
TOLD_EVERY = 20
_RULE: TypeAdapter[Rule] = TypeAdapter(Rule)


def _rows(
    scope: Scope, site_id: UUID, name: str, content: bytes, use: Use, columns: Mapping[str, str] | None
) -> list[Row]:
    if name.lower().endswith(TABLES):
        return read_rows(name, content, columns, use.value)
    from ulmatic.formats.boundaries import read_boundaries

    usual = next(depth.proposed_mm for depth in sheets.usual_depths(scope, site_id) if depth.use is use)
    return [
        Row(
            number,
            {
                "name": boundary.name,
                "use": use,
                "shape": {"kind": "walked", "points_deg": boundary.points_deg},
                "wanted_mm": usual,
            },
        )
        for number, boundary in enumerate(read_boundaries(name, content), 1)
    ]


def import_plots(
    scope: Scope,
    site_id: UUID,
    import_id: UUID,
    name: str,
    content: bytes,
    use: Use,
    *,
    keep: bool,
    columns: Mapping[str, str] | None = None,
    tell: Callable[[int, int], None] = lambda _done, _of: None,
) -> Import:
    """Read plots from a file and, when asked to and nothing is wrong, add all of them.

    The same `import_id` adds them once, however often it is sent; `tell` hears how many of all are read.
    """
    site = scope.get(SiteRow, site_id)
    try:
        rows = _rows(scope, site_id, name, content, use, columns)
    except UnknownHeadings as unknown:
        unclear = [ImportColumn.model_validate(vars(column)) for column in unknown.columns]
        return Import(columns=unclear, headings=list(COLUMNS), plots=[], errors=[], kept=False)
    except FileRefused as refusal:
        raise Problem(422, str(refusal), field="file") from None
    plots: list[tuple[Row, NewPlot]] = []
    errors: list[RowError] = []
    rules: dict[UUID, Rule] = {}
    materials = shelf(scope)
    for number, row in enumerate(rows):
        if number % TOLD_EVERY == 0:
            tell(number, len(rows))
        plot_id = uuid5(import_id, str(row.number))
        plot = _read_plot(row, {"units": site.units, "id": plot_id}, materials, errors)
        if plot is not None:
            plots.append((row, plot))
        if row.rule is not None:
            try:
                rules[plot_id] = _RULE.validate_python(row.rule)
            except ValidationError:
                detail = f"This is not a rule. Type one like: {RULE_EXAMPLES}."
                errors.append(RowError(row=row.number, column="rule", detail=detail))
    keeps = keep and not errors
    if keeps:
        kept_rows = service.add_plots(scope, site_id, [entry for _, entry in plots])
        log.measure_plots(scope, site_id, [(entry.id, entry) for _, entry in plots])
        for _, entry in plots:
            _place_walked(site, entry, kept_rows[entry.id])
        for plot_id, rule in rules.items():
            kept_rows[plot_id].rule = rule.model_dump(mode="json")
    state = snapshot_of(scope, site_id).state
    return Import(plots=[_seen(row, entry, state) for row, entry in plots], errors=errors, kept=keeps)


def _read_plot(row: Row, fixed: dict[str, Any], materials: Shelf, errors: list[RowError]) -> NewPlot | None:
    """Return the plot of a row, None where it cannot be read; say in `errors` what is wrong with it."""
    names = {material.name.lower(): key for key, material in materials.items()}
    plot = None
    try:
        plot = NewPlot.model_validate({**_named(row.entry, names), **fixed})
        material_of(materials, plot.recipe.material, "material")
    except Problem as problem:
        errors.append(RowError(row=row.number, column="material", detail=problem.detail))
    except ValidationError as error:
        kind = row.entry["shape"].get("kind")
        for finding in error.errors():
            sentence = Sentences.of({**finding, "loc": ("row", *finding["loc"])})
            detail = f"Type one of: {USE_WORDS}." if sentence.field == "use" else sentence.detail
            errors.append(RowError(row=row.number, column=heading_of(sentence.field, kind), detail=detail))
    return plot


def _named(entry: dict[str, Any], names: Mapping[str, str]) -> dict[str, Any]:
    """Return an entry whose material is named by its key, where its name is known."""
    recipe = entry.get("recipe")
    if not recipe or "material" not in recipe:
        return entry
    return {**entry, "recipe": {**recipe, "material": names.get(recipe["material"].lower(), recipe["material"])}}


def _seen(row: Row, entry: NewPlot, state: SiteState) -> ImportedPlot:
    plot = PlannedPlot.model_validate(entry.model_dump(include=set(PlannedPlot.model_fields)))
    area, volume = sheets.to_target_m3(state, plot, entry.measured().depth())
    return ImportedPlot(row=row.number, name=entry.name, kind=entry.shape.kind, area_m2=area, to_target_m3=volume)


def _place_walked(site: SiteRow, entry: NewPlot, row: PlotRow) -> None:
    """Put a walked boundary where it lies, if the site says where it is."""
    if site.location_deg is None or not isinstance(entry.shape, Walked):
        return
    latitude, longitude = entry.shape.middle_deg()
    (origin,) = to_plan([(longitude, latitude)], (site.location_deg[0], site.location_deg[1]), site.north_deg)
    west, south, east, north = affinity.rotate(entry.shape.geometry(), -site.north_deg, origin=(0, 0)).bounds
    middle = (origin[0] + (west + east) / 2, origin[1] + (south + north) / 2)
    if max(abs(middle[0]), abs(middle[1])) < 50_000:
        place = Place(x_m=round(middle[0], 3), y_m=round(middle[1], 3), turn_deg=-site.north_deg)
        row.place = place.model_dump()


def table(scope: Scope, site_id: UUID, ending: str) -> bytes:
    """Return a site's plots with their recipes and rules as CSV or XLSX."""
    snapshot = snapshot_of(scope, site_id)
    sheet = sheets.sheet_of(snapshot)
    materials = {key: material.name for key, material in snapshot.site.materials.items()}
    rows = rows_of(
        PlotInTable(
            plot=plot.plot, existing_mm=out.existing_mm, typed=_texts_of(out), rule=plot.rule, materials=materials
        )
        for out, plot in zip(sheet.plots, snapshot.site.plots, strict=True)
    )
    columns = list(COLUMNS)
    return write_csv(rows, columns) if ending == "csv" else write_xlsx(rows, columns, "Plots")


def _texts_of(plot: PlotOut) -> dict[str, Any]:
    """Return the texts of a plot, with its depths in the words of the practice that reads the table again."""
    if plot.typed.get("wanted_as", "settled") == plot.depth_means and plot.typed.get("wanted_mm"):
        return dict(plot.typed)
    spread = plot.depth_means is DepthMeans.SPREAD
    recipe = dict(plot.typed.get("recipe", {}))
    if plot.recipe.growing_mm is not None:
        recipe["growing_mm"] = f"{number_text(plot.growing_spread_mm if spread else plot.growing_mm)} mm"
    target = f"{number_text(plot.spread_mm if spread else plot.wanted_mm)} mm"
    return {**plot.typed, "recipe": recipe, "wanted_mm": target}


def geojson(sheet: SiteSheet) -> bytes:
    """Return a site's plots as GeoJSON (RFC 7946), placed on the earth by the site's location."""
    site = sheet.site
    features = []
    for out in sheet.plots:
        if isinstance(out.shape, Walked):
            ring = [[longitude, latitude] for latitude, longitude in out.shape.points_deg]
            geometry: dict[str, Any] = {"type": "Polygon", "coordinates": [[*ring, ring[0]]]}
        elif site.location_deg is not None:
            shape = centred(out.shape.geometry(16)).difference(placed_cuts(out.cut_outs))
            placed = at_place(shape, out.place)
            geometry = _on_earth(mapping(placed), site.location_deg, site.north_deg)
        else:
            raise Problem(409, "GeoJSON needs latitude and longitude. Enter the site’s location in its settings first.")
        properties = {
            "name": out.name,
            "use": out.use.value,
            "area_m2": round(out.area_m2, 3),
            "wanted_mm": out.wanted_mm,
            "existing_mm": out.existing_mm,
            "depth_mm": round(out.depth.middle, 1),
            "planned_m3": round(out.planned_m3, 3),
        }
        features.append({"type": "Feature", "id": str(out.id), "properties": properties, "geometry": geometry})
    features += [_landmark_on_earth(landmark, site) for landmark in sheet.landmarks if site.location_deg is not None]
    return json.dumps({"type": "FeatureCollection", "features": features}, ensure_ascii=False).encode()


def _landmark_on_earth(landmark: LandmarkOut, site: SiteOut) -> dict[str, Any]:
    """Return a tip or pile place as its rectangle, a way as its middle line."""
    shape, location = landmark.landmark, site.location_deg
    assert location is not None  # noqa: S101 - asked by the caller
    if isinstance(shape, Way):
        points = [list(point) for point in to_earth(shape.points_m, location, site.north_deg)]
        geometry: dict[str, Any] = {"type": "LineString", "coordinates": points}
    else:
        stand = box(-shape.length_m / 2, -shape.width_m / 2, shape.length_m / 2, shape.width_m / 2)
        geometry = _on_earth(mapping(at_place(stand, shape.place)), location, site.north_deg)
    properties = {"name": landmark.name, **shape.model_dump(mode="json", exclude={"place", "points_m"})}
    return {"type": "Feature", "id": str(landmark.id), "properties": properties, "geometry": geometry}


def _on_earth(geometry: dict[str, Any], location: tuple[float, float], north_deg: float) -> dict[str, Any]:
    def ring(points: Any) -> list[list[float]]:
        return [[round(x, 8), round(y, 8)] for x, y in to_earth(points, location, north_deg)]

    rings = geometry["coordinates"]
    if geometry["type"] == "MultiPolygon":
        return {"type": "MultiPolygon", "coordinates": [[ring(ring_points) for ring_points in part] for part in rings]}
    return {"type": "Polygon", "coordinates": [ring(ring_points) for ring_points in rings]}
