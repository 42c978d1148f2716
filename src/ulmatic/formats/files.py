"""Files as they come from outside: refused with a sentence when they are not what they should be."""

import io
import zipfile

MOST_BYTES = 5_000_000
MOST_UNPACKED = 30_000_000


class FileRefused(ValueError):
    """A file that cannot be read; its text is one sentence for the person who chose it."""


def text_of(content: bytes) -> str:
    """Return the text of a UTF-8 file, with or without a byte order mark."""
    if content[:2] in (b"\xff\xfe", b"\xfe\xff"):
        raise FileRefused("This file is in UTF-16. Save it as UTF-8, then choose it again.")
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise FileRefused("This file is not in UTF-8. Save it as UTF-8 (“CSV UTF-8” in most programs).") from None
    if "\x00" in text:
        raise FileRefused("This is not a text file.")
    return text


def plain_xml(content: bytes) -> bytes:
    """Return XML that declares no document type and so no entities."""
    text = text_of(content)
    if "<!DOCTYPE" in text.upper() or "<!ENTITY" in text.upper():
        raise FileRefused("This file declares entities of its own, which such files never need. It was not read.")
    return text.encode()


def safe_zip(content: bytes, limit: int = MOST_UNPACKED, what: str = "XLSX workbook") -> io.BytesIO:
    """Return a zip archive that does not unpack to more than it should."""
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            unpacked = sum(entry.file_size for entry in archive.infolist())
    except (zipfile.BadZipFile, ValueError, OSError):
        raise FileRefused(f"This is not an {what}, or it is damaged.") from None
    if unpacked > limit:
        raise FileRefused(f"This {what} unpacks to far more than it should. It was not read.")
    return io.BytesIO(content)
