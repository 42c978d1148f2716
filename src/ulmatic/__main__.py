"""`python -m ulmatic`: the command line."""

from ulmatic.cli import cli

cli()
