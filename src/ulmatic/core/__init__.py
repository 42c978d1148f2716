"""The computation: measures in, figures with their working out. No interface, files, clock or network here."""
