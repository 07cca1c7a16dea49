"""The kinds of long work that a server does, registered with its runner by name."""

from __future__ import annotations

from aretane.desk.work import choices, clip, conversion, judging, reading
from aretane.jobs.runner import Kind
from aretane.jobs.work import Work
from aretane.store import answers
from aretane.store.database import Database, Db
from aretane.store.files import RecordingFiles

CHOICES = "choices"
CONVERSION = "conversion"
READING = "reading"
LEDGER = "ledger"
CLIP = "clip"


def kinds(database: Database, files: RecordingFiles) -> list[Kind]:
    """Choices are watched: they stop when nobody looks. Readings, conversions, clips and ledgers finish."""
    return [
        Kind(CHOICES, _work_out, kept=False),
        Kind(READING, lambda work: reading.run(work, database, files), kept=True),
        Kind(LEDGER, lambda work: judging.run(work, database), kept=True),
        Kind(CLIP, lambda work: clip.run(work, database, files), kept=True),
        Kind(CONVERSION, lambda work: conversion.run(work, files), kept=True),
    ]


def _work_out(work: Work) -> str:
    for progress, body in choices.steps(work, choices.wanted_from(work.job.arguments)):

        def keep(db: Db, known: choices.Body = body) -> None:
            answers.keep(db, work.scope, work.job.subject, known)

        work.advance(progress, keep)
        if (body.get("options") or {}).get("options") or "plan" in body or "who" in body or "against" in body:
            work.shown()
    return ""
