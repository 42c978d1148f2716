from ulmatic.cli import cli

cli()
