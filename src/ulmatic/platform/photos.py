"""Photos in files, each named by the hash of what it holds: kept once, however often it is sent."""

import hashlib
import os
import time
from pathlib import Path
from typing import Protocol
from uuid import uuid4

from ulmatic.platform.settings import settings


class Picture(Protocol):
    """A photo and its thumbnail as JPEG."""

    @property
    def jpeg(self) -> bytes:
        """The photo."""

    @property
    def thumbnail(self) -> bytes:
        """The same, small."""


def keep_photo(picture: Picture) -> str:
    """Write a photo, unless it is there; return the hash by which it is found."""
    name = hashlib.sha256(picture.jpeg).hexdigest()
    for path, content in ((_path(name), picture.jpeg), (_path(name, thumbnail=True), picture.thumbnail)):
        if not path.exists():
            path.parent.mkdir(parents=True, exist_ok=True)
            # Written beside and moved: whoever reads sees all of it or nothing.
            temporary = path.with_name(f"{path.name}.{uuid4().hex}")
            temporary.write_bytes(content)
            os.replace(temporary, path)
    return name


def photo_content(name: str, *, thumbnail: bool = False) -> bytes | None:
    """Return a photo; None where its file is gone."""
    try:
        return _path(name, thumbnail=thumbnail).read_bytes()
    except FileNotFoundError:
        return None


def drop_photo(name: str) -> None:
    """Delete a photo and its thumbnail."""
    _path(name).unlink(missing_ok=True)
    _path(name, thumbnail=True).unlink(missing_ok=True)


def names_of_photos(older_than_s: float) -> list[str]:
    """Return the hashes of the photos that were written so many seconds ago, or before."""
    latest = time.time() - older_than_s
    return [
        path.stem
        for path in settings().photos.glob("*/*.jpg")
        if not path.stem.endswith(".small") and path.stat().st_mtime <= latest
    ]


def _path(name: str, *, thumbnail: bool = False) -> Path:
    return settings().photos / name[:2] / f"{name}{'.small' if thumbnail else ''}.jpg"
