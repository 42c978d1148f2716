"""Words that people read, by language: flat files of the form that the web application reads too."""

import json
from functools import cache
from pathlib import Path

LANGUAGE = "en"


@cache
def texts(word: str) -> dict[str, str]:
    """Return the texts of a part of the job by their keys."""
    loaded: dict[str, str] = json.loads((Path(__file__).parent / LANGUAGE / f"{word}.json").read_text())
    return loaded
