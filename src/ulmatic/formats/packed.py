"""An archive with its photos as one ZIP."""

import io
import zipfile
import zlib
from collections.abc import Mapping

from ulmatic.formats.files import FileRefused, safe_zip

INSIDE = "site.json"
"""The archive itself in a ZIP with photos."""
MOST_UNPACKED = 400_000_000


def packed(content: bytes, photos: Mapping[str, bytes]) -> bytes:
    """Return an archive with its photos, by hash, as a ZIP.

    Parameters
    ----------
    content : bytes
        The archive as JSON.
    photos : mapping of hash to bytes
    """
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as zipped:
        zipped.writestr(INSIDE, content)
        for name, jpeg in photos.items():
            zipped.writestr(zipfile.ZipInfo(f"photos/{name}.jpg"), jpeg)
    return file.getvalue()


def unpacked(content: bytes) -> tuple[bytes, dict[str, bytes]]:
    """Return the JSON of an archive and its photos by hash; a file that is no ZIP is the JSON itself.

    Parameters
    ----------
    content : bytes

    Raises
    ------
    FileRefused
    """
    if not content.startswith(b"PK"):
        return content, {}
    file = safe_zip(content, MOST_UNPACKED, "archive")
    try:
        with zipfile.ZipFile(file) as zipped:
            named = {name.removeprefix("photos/").removesuffix(".jpg"): name for name in zipped.namelist()}
            photos = {key: zipped.read(name) for key, name in named.items() if name.startswith("photos/")}
            return zipped.read(INSIDE), photos
    except (KeyError, zipfile.BadZipFile, NotImplementedError, RuntimeError, OSError, zlib.error, EOFError):
        raise FileRefused("This ZIP is not an Ulmatic site archive, or it is damaged.") from None
