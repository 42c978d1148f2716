"""What can be written down, described for whoever draws a form: the kinds of entries and of tasks, with their words."""

from typing import Any

from pydantic import BaseModel

from ulmatic.core.log import KINDS
from ulmatic.core.log.entry_fields import EntryField, fields_of
from ulmatic.core.log.log_record import Subject
from ulmatic.core.work import TASKS
from ulmatic.texts import texts


class FieldChoice(BaseModel):
    """A choice, and its words."""

    value: str
    label: str


class EntryFieldOut(BaseModel):
    """A field of a form, as its kind's record and words have it.

    `label_spread` is its label where depths mean mulch as it is spread; `start` what a form begins with, in SI; one of
    those that are `either` is typed, not the other; one that is `needed` is sent even where nothing is typed.
    """

    name: str
    type: str
    label: str
    label_spread: str | None
    hint: str | None
    choices: list[FieldChoice]
    either: bool
    needed: bool
    start: float | bool | str | None


class LogKindOut(BaseModel):
    """A kind of entry; it is offered in the log's form, and in that of the nitrogen account, where it has a place."""

    kind: str
    label: str
    hint: str | None
    subject: Subject
    form_place: int | None
    account_place: int | None
    followed: bool
    fields: list[EntryFieldOut]


class TaskKindOut(BaseModel):
    """A kind of task: what is done, what it is called once it was, and as what its hours are logged."""

    kind: str
    words: str
    done: str
    tools: tuple[str, ...]
    logged_as: str


class Kinds(BaseModel):
    """What can be written down."""

    log: list[LogKindOut]
    tasks: list[TaskKindOut]


def described_kinds() -> Kinds:
    """Return what can be written down."""
    return Kinds(
        log=[_kind(kind) for kind in KINDS],
        tasks=[
            TaskKindOut(
                kind=record.key, words=record.words, done=record.done, tools=record.tools, logged_as=record.logged_as
            )
            for record in TASKS.values()
        ],
    )


def _kind(kind: str) -> LogKindOut:
    record, fields = KINDS[kind], {field.name: field for field in fields_of(kind)}
    return LogKindOut(
        kind=kind,
        label=texts("log_kinds")[kind],
        hint=texts("log_kinds").get(f"{kind}.hint"),
        subject=record.subject,
        form_place=record.form_place,
        account_place=record.account_place,
        followed=record.followed,
        fields=[_field(kind, fields[name]) for name in record.form_fields],
    )


def _field(kind: str, field: EntryField) -> EntryFieldOut:
    words, key = texts("log_kinds"), f"{kind}.{field.name}"
    start: Any = dict(KINDS[kind].starts).get(field.name, field.start if field.type == "flag" else None)
    return EntryFieldOut(
        name=field.name,
        type=field.type,
        label=words[key],
        label_spread=words.get(f"{key}_spread"),
        hint=words.get(f"{key}.hint"),
        choices=[FieldChoice(value=choice, label=words[f"{key}.{choice}"]) for choice in field.choices],
        either=field.name in KINDS[kind].either,
        needed=field.name in KINDS[kind].needed,
        start=start,
    )
