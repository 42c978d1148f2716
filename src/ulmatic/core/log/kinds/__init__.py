"""The kinds of log entries, each a record. To add one is to add its record here, and its words to the texts."""

from importlib import import_module
from pkgutil import iter_modules

for module in iter_modules(__path__):
    import_module(f"{__name__}.{module.name}")
