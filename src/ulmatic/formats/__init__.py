"""Open formats in and out. What is read here is checked before anything trusts it."""

from ulmatic.formats.files import FileRefused
