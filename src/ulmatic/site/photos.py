"""Photos of entries and loads: checked, made smaller, kept in files, seen by members alone."""

from uuid import UUID

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from ulmatic.accounts.scope import Scope
from ulmatic.formats import FileRefused
from ulmatic.formats.photos import Photo, photo
from ulmatic.platform.photos import drop_photo, keep_photo, names_of_photos, photo_content
from ulmatic.platform.problems import Problem, not_found
from ulmatic.records.log import PhotoRow
from ulmatic.records.survey import SiteRow
from ulmatic.records.writes import added
from ulmatic.site.ledger_schemas import PhotoOut

MOST_PHOTOS = 5_000
DAY_S = 86_400.0
AT_ONCE = 500


def put_photo(
    scope: Scope,
    site_id: UUID,
    photo_id: UUID,
    content: bytes | Photo,
    *,
    keep_location: bool = False,
    is_drawing: bool = False,
) -> PhotoOut:
    """Keep a photo, as it was sent or read already; the same id again returns the one that is there."""
    site = scope.get(SiteRow, site_id)
    photo = scope.session.scalar(scope.select(PhotoRow).where(PhotoRow.id == photo_id))
    if photo is None:
        photo = _kept(scope, site, photo_id, content, keep_location=keep_location, is_drawing=is_drawing)
    if photo.site_id != site.id:
        raise not_found(PhotoRow.noun)
    return PhotoOut.model_validate(photo)


def _kept(
    scope: Scope, site: SiteRow, photo_id: UUID, content: bytes | Photo, *, keep_location: bool, is_drawing: bool
) -> PhotoRow:
    counted = scope.session.scalar(scope.select(PhotoRow).with_only_columns(func.count())) or 0
    if counted >= MOST_PHOTOS:
        raise Problem(409, f"A workspace keeps {MOST_PHOTOS:,} photos at most.")
    try:
        picture = content if isinstance(content, Photo) else photo(content)
    except FileRefused as refusal:
        raise Problem(422, str(refusal), field="photo") from None
    location = picture.location_deg if keep_location else None
    return added(
        scope,
        PhotoRow(
            id=photo_id,
            site_id=site.id,
            hash=keep_photo(picture),
            width=picture.width,
            height=picture.height,
            size=len(picture.jpeg),
            drawn=is_drawing,
            location=list(location) if location else None,
            by=scope.member.user.name,
            created_at=scope.clock.now(),
        ),
    )


def read_photo(scope: Scope, photo_id: UUID, *, thumbnail: bool = False) -> bytes:
    """Return the JPEG of a photo, or its thumbnail."""
    row = scope.get(PhotoRow, photo_id)
    content = photo_content(row.hash, thumbnail=thumbnail)
    if content is None:
        raise Problem(404, "The file of this photo is missing.")
    return content


def sweep_photos(database: Session, older_than_s: float = DAY_S) -> int:
    """Delete the files of photos that no row names any more; return how many.

    A photo that is being sent is younger, and stays.
    """
    names, count = names_of_photos(older_than_s), 0
    for start in range(0, len(names), AT_ONCE):
        some = names[start : start + AT_ONCE]
        named = set(database.scalars(select(PhotoRow.hash).where(PhotoRow.hash.in_(some))))
        for name in some:
            if name not in named:
                drop_photo(name)
                count += 1
    return count


def site_photos(scope: Scope, site_id: UUID) -> list[PhotoOut]:
    """Return the photos of a site, the latest first."""
    site = scope.get(SiteRow, site_id)
    rows = scope.session.scalars(
        scope.select(PhotoRow).where(PhotoRow.site_id == site.id).order_by(PhotoRow.created_at.desc(), PhotoRow.id)
    )
    return [PhotoOut.model_validate(row) for row in rows]


def check_photos(scope: Scope, site_id: UUID, photos: tuple[UUID, ...]) -> None:
    """Raise the 422 problem where a photo that an entry names is not here."""
    if not photos:
        return
    query = scope.select(PhotoRow).where(PhotoRow.site_id == site_id, PhotoRow.id.in_(photos))
    if (scope.session.scalar(query.with_only_columns(func.count())) or 0) < len(set(photos)):
        raise Problem(422, "This photo is not here. Send it first.", field="photos")
