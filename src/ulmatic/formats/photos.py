"""Photographs as they come from a phone: made smaller, and bare of where and by whom they were taken."""

import io
from threading import Lock

from PIL import Image, ImageOps, UnidentifiedImageError

from ulmatic.formats.files import FileRefused

LONGEST_PX = 1_600
MOST_PIXELS, MOST_WHOLE = 120_000_000, 30_000_000
"""Of a JPEG, which is read at a fraction of its size, and of a picture that has to be read whole."""
_one_at_a_time = Lock()


def photo(content: bytes) -> bytes:
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
            with _one_at_a_time:
                image.draft("RGB", (LONGEST_PX, LONGEST_PX))
                upright = ImageOps.exif_transpose(image).convert("RGB")
                upright.thumbnail((LONGEST_PX, LONGEST_PX))
                out = io.BytesIO()
                upright.save(out, "JPEG", quality=82)
            return out.getvalue()
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        raise FileRefused("This picture cannot be read. Choose a JPEG, PNG or WebP file.") from None
