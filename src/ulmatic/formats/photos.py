"""Photographs as they come from a phone: made smaller, and bare of where and by whom they were taken."""

import io

from PIL import Image, ImageOps, UnidentifiedImageError

from ulmatic.formats.files import FileRefused

LONGEST_PX = 1_600
MOST_PIXELS = 60_000_000


def photo(content: bytes) -> bytes:
    """Return a photograph as JPEG, upright, at most 1,600 pixels long, without metadata.

    Raises
    ------
    FileRefused
        Where it is no picture that can be read.
    """
    try:
        with Image.open(io.BytesIO(content), formats=["JPEG", "PNG", "WEBP"]) as image:
            if image.width * image.height > MOST_PIXELS:
                raise FileRefused("This picture is too large.")
            upright = ImageOps.exif_transpose(image).convert("RGB")
            upright.thumbnail((LONGEST_PX, LONGEST_PX))
            out = io.BytesIO()
            upright.save(out, "JPEG", quality=82)
            return out.getvalue()
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        raise FileRefused("This is no picture that can be read here. Choose a JPEG, PNG or WebP.") from None
