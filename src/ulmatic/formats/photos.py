"""Photographs as they come from a phone: made smaller, and bare of where and by whom they were taken."""

import io
from dataclasses import dataclass
from threading import Lock

from PIL import ExifTags, Image, ImageOps, UnidentifiedImageError

from ulmatic.formats.files import FileRefused

LONGEST_PX, THUMBNAIL_PX = 1_600, 320
MOST_PIXELS, MOST_WHOLE = 120_000_000, 30_000_000
"""Of a JPEG, which is read at a fraction of its size, and of a picture that has to be read whole."""
_one_at_a_time = Lock()
SECONDS = (1.0, 60.0, 3600.0)


@dataclass(frozen=True)
class Photo:
    """A photograph as it is kept: JPEG, a thumbnail, its size in pixels; (latitude, longitude) where it told one."""

    jpeg: bytes
    thumbnail: bytes
    width: int
    height: int
    location_deg: tuple[float, float] | None = None


def photo(content: bytes) -> Photo:
    """Return a photograph as JPEG, upright, at most 1,600 pixels long, without metadata.

    Raises
    ------
    FileRefused
        Where it is no picture that can be read.
    """
    try:
        with Image.open(io.BytesIO(content), formats=["JPEG", "PNG", "WEBP"]) as image:
            pixels = image.width * image.height
            if pixels > (MOST_PIXELS if image.format == "JPEG" else MOST_WHOLE):
                raise FileRefused("This picture is too large.")
            location = _location(image)
            with _one_at_a_time:
                image.draft("RGB", (LONGEST_PX, LONGEST_PX))
                upright = ImageOps.exif_transpose(image).convert("RGB")
                upright.thumbnail((LONGEST_PX, LONGEST_PX))
                size, jpeg = upright.size, _jpeg(upright)
                upright.thumbnail((THUMBNAIL_PX, THUMBNAIL_PX))
                return Photo(jpeg, _jpeg(upright), *size, location)
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        raise FileRefused("This picture cannot be read. Choose a JPEG, PNG or WebP file.") from None


def _jpeg(image: Image.Image) -> bytes:
    out = io.BytesIO()
    image.save(out, "JPEG", quality=82)
    return out.getvalue()


def _location(image: Image.Image) -> tuple[float, float] | None:
    try:
        place = image.getexif().get_ifd(ExifTags.IFD.GPSInfo)
        degrees = [
            sum(float(part) / unit for part, unit in zip(place[number], SECONDS, strict=True)) for number in (2, 4)
        ]
        latitude = -degrees[0] if place.get(1) == "S" else degrees[0]
        longitude = -degrees[1] if place.get(3) == "W" else degrees[1]
    except (KeyError, TypeError, ValueError, ZeroDivisionError, AttributeError, SyntaxError):
        return None
    return (latitude, longitude) if abs(latitude) <= 90 and abs(longitude) <= 180 else None
