"""The examples in docstrings of the core run and say what they say."""

import doctest
import importlib
import re
from pathlib import Path

import pytest

import ulmatic.core

CORE = Path(ulmatic.core.__file__).parent
WITH_EXAMPLES = sorted(path for path in CORE.rglob("*.py") if re.search(r"^\s+>>> ", path.read_text(), re.MULTILINE))


@pytest.mark.parametrize("path", WITH_EXAMPLES, ids=lambda path: str(path.relative_to(CORE)))
def test_examples_run(path: Path) -> None:
    name = ".".join(("ulmatic.core", *path.relative_to(CORE).with_suffix("").parts))
    results = doctest.testmod(importlib.import_module(name))
    assert results.attempted > 0
    assert results.failed == 0
