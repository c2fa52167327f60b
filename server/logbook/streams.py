"""Samples as they arrive: batches of a stream, taken once and in order, and drawn together later."""

from __future__ import annotations

import logging
from collections.abc import Iterable, Mapping
from uuid import UUID

import polars as pl
from django.contrib.auth.models import User
from django.db import IntegrityError, transaction
from django.db.models import Q, Sum
from django.db.utils import DatabaseError

from limpet.bounds import MOST_NAME
from limpet.evidence.checks import not_rising, outside, says_not_rising
from limpet.evidence.columns import SAMPLE_COLUMNS
from limpet.evidence.reduction import Reduction, reduced
from limpet.files.tables import MOST_SAMPLES
from limpet.pack import PackSpec
from server.logbook.changes import locked, touch
from server.logbook.chunks import CHUNK_ROWS, chunk_of, read_chunk
from server.logbook.intake import StreamIntake
from server.logbook.models import OctetLength, RangeTest, SampleChunk, Stream
from server.logbook.quotas import check_room
from server.logbook.rows import core_sheet
from server.wire.problems import ConflictError, FieldError
from server.wire.room import check_disk
from server.wire.stored import unwrapped, wrapped
from server.wire.trying import failed, may_be_tried, succeeded

logger = logging.getLogger(__name__)

#: Instruments of one test, and rows of one batch: an hour at one a second.
MOST_STREAMS, MOST_BATCH_ROWS = 8, 3600
#: Chunks of one stream that are left to lie until they are drawn together during the ride.
MOST_SHORT = 60
#: Streams that are drawn together at once.
AT_ONCE = 20


def store_whole(test: RangeTest, intake: StreamIntake) -> Stream:
    """A stream that is all there, from the columns of its chunks."""
    chunks = intake.chunks
    sums = _carried(Reduction.from_json(unwrapped(chunk["sums"])) for chunk in chunks)
    stream = Stream.objects.create(
        test=test,
        instrument=intake.instrument[:MOST_NAME],
        clock_offset_s=intake.clock_offset_s,
        sign=intake.sign,
        next_sequence=len(chunks),
        rows=sum(chunk["count"] for chunk in chunks),
        bytes=sum(len(chunk["data"]) for chunk in chunks),
        sums=wrapped(sums.to_json()) if sums is not None else None,
    )
    for chunk in chunks:
        SampleChunk(stream=stream, **chunk).save(force_insert=True)
    return stream


def open_stream(
    owner: User,
    test_id: UUID,
    stream_id: UUID,
    *,
    instrument: str,
    clock_offset_s: float,
    sign: int,
) -> Stream:
    """Say what will send samples. Sent again, it changes what is said of the instrument.

    Raises
    ------
    ConflictError
        When the id is another test's, or the test has as many streams as it may have.
    """
    said = {"instrument": instrument, "clock_offset_s": clock_offset_s, "sign": sign}
    with transaction.atomic():
        test = locked(owner, test_id)
        stored = test.streams.filter(pk=stream_id).first()
        if stored is None:
            if test.streams.count() >= MOST_STREAMS:
                raise ConflictError(f"A test takes samples of {MOST_STREAMS} instruments at most.")
            try:
                with transaction.atomic():
                    return Stream.objects.create(id=stream_id, test=test, **said)
            except IntegrityError as cause:
                text = "That id belongs to another test’s samples. Make a new one."
                raise ConflictError(text) from cause
        sums = sums_of(stored)
        if sums is not None:
            _check_placed(sums.first.time_s, sums.last.time_s, clock_offset_s, "clock_offset_s")
        if any(getattr(stored, name) != value for name, value in said.items()):
            for name, value in said.items():
                setattr(stored, name, value)
            stored.save(update_fields=list(said))
            if stored.rows:
                touch(test)
    return stored


#: Batches of fewer rows than this are counted against the limits once in so many.
LONG_BATCH, SUMMED_EVERY = 50, 16


def append(
    owner: User,
    test_id: UUID,
    stream_id: UUID,
    sequence: int,
    columns: Mapping[str, list[float | None] | None],
) -> Stream:
    """Take one batch of samples; a repeat changes nothing.

    Parameters
    ----------
    sequence : 0, 1, 2, … in the order of their times; the next one is taken
    columns : values by the names of samples.csv, None where not known, all of one length

    Raises
    ------
    FieldError
        For what a file would be refused for, in the same words.
    ConflictError
        When a batch before it is missing, or the test has all the samples it may have.
    """
    check_disk()
    with transaction.atomic():
        test = locked(owner, test_id, "sheet", "revision")
        stream = test.streams.get(pk=stream_id)
        if sequence < stream.next_sequence:
            return stream
        if sequence > stream.next_sequence:
            text = f"Batch {stream.next_sequence} is missing; send it first, then {sequence}."
            raise ConflictError(text)
        frame = _frame_of(columns, core_sheet(test).pack)
        first_s, last_s = float(frame["time_s"][0]), float(frame["time_s"][-1])
        _check_placed(first_s, last_s, stream.clock_offset_s, "time_s")
        before = sums_of(stream)
        if before is not None and frame["time_s"][0] <= before.last.time_s:
            said = says_not_rising(frame["time_s"][0], before.last.time_s)
            raise FieldError({"time_s": said.removeprefix("time_s ")})
        columns_kept = chunk_of(frame, sequence, sequence)
        # Sums over all that is kept are as dear as the rest: of short batches every sixteenth is held to them.
        if frame.height >= LONG_BATCH or sequence % SUMMED_EVERY == 0:
            held = test.streams.aggregate(rows=Sum("rows"))["rows"] or 0
            if held + frame.height > MOST_SAMPLES:
                raise ConflictError(f"This test holds {held:,} samples; {MOST_SAMPLES:,} are kept.")
            check_room(owner, sample_bytes=len(columns_kept["data"]))
        chunk = SampleChunk(stream=stream, **columns_kept)
        chunk.save(force_insert=True)
        now = _sums_of_chunk(chunk, stream.instrument)
        stream.sums = wrapped((before.then(now) if before is not None else now).to_json())
        stream.next_sequence = sequence + 1
        stream.rows += frame.height
        stream.bytes += len(chunk.data)
        stream.short += 1
        stream.save(update_fields=["sums", "next_sequence", "rows", "bytes", "short"])
        touch(test, call=False)
    return stream


def _check_placed(first_s: float, last_s: float, offset_s: float, name: str) -> None:
    """On the test's own time samples must lie where a file's do, or they could not be exported."""
    span = SAMPLE_COLUMNS["time_s"].span
    if not (span.holds(first_s + offset_s) and span.holds(last_s + offset_s)):
        said = (
            f"puts samples at {first_s + offset_s:,.10g} to {last_s + offset_s:,.10g} s of the test; "
            f"a test lies between {span.low:,.10g} and {span.high:,.10g} s"
        )
        raise FieldError({name: said})


def sums_of(stream: Stream) -> Reduction | None:
    """What a stream has come to; summed again where it was stored without, or in another shape."""
    if not stream.rows:
        return None
    found = Reduction.from_json(unwrapped(stream.sums))
    if found is None:
        found = _carried(_sums_of_chunk(chunk, stream.instrument) for chunk in stream.chunks.all())
    return found


def _sums_of_chunk(chunk: SampleChunk, called: str) -> Reduction:
    return Reduction.from_json(unwrapped(chunk.sums)) or reduced(_read(chunk, called))


def _carried(parts: Iterable[Reduction | None]) -> Reduction | None:
    total = None
    for part in parts:
        if part is not None:
            total = part if total is None else total.then(part)
    return total


def _frame_of(columns: Mapping[str, list[float | None] | None], pack: PackSpec) -> pl.DataFrame:
    """A batch as a table, checked as a file is."""
    given = {name: values for name, values in columns.items() if values is not None}
    rows = len(given["time_s"])
    faults = {
        name: f"has {len(values)} values, time_s {rows}; send one for each row, null if not known"
        for name, values in given.items()
        if len(values) != rows
    }
    if faults:
        raise FieldError(faults)
    frame = pl.DataFrame(
        {name: pl.Series(values, dtype=pl.Float64) for name, values in given.items()}
    )
    numbers = {name: frame[name].to_numpy() for name in frame.columns}
    faults = {
        odd.name: f"{odd.says(0)} (row {odd.rows[0] + 1})"
        for odd in outside(SAMPLE_COLUMNS, numbers, pack)
    }
    time = numbers["time_s"]
    wrong = not_rising(time, strictly=True)
    if len(wrong):
        row = int(wrong[0])
        said = says_not_rising(time[row], time[row - 1]).removeprefix("time_s ")
        faults["time_s"] = f"{said} (row {row + 1})"
    if faults:
        raise FieldError(faults)
    return frame.select("time_s", *(name for name in frame.columns if name != "time_s"))


def compact_due() -> int:
    """Draw short chunks together where there are too many, or the ride has ended; says how many streams.

    A stream whose chunks cannot be read is left as it is and tried again later; the others go on.
    """
    ended = Q(short__gt=0, test__state=RangeTest.State.ENDED)
    found = Stream.objects.filter(may_be_tried(), ended | Q(short__gt=MOST_SHORT))[:AT_ONCE]
    done = 0
    for stream in found:
        try:
            done += compact(stream)
        except DatabaseError:
            raise
        except Exception as error:  # whatever one stream holds, the others are drawn together
            logger.warning("stream %s could not be drawn together: %s", stream.pk, error)
            failed(stream, str(error))
        else:
            succeeded(stream)
    return done


def compact(stream: Stream) -> bool:
    """Put a stream's short chunks together; what they hold stays as it was. False when none were."""
    with transaction.atomic():
        # The test's lock keeps batches out meanwhile.
        RangeTest.objects.select_for_update().get(pk=stream.test_id)
        runs: list[list[SampleChunk]] = []
        for chunk in stream.chunks.defer("data"):
            rows = sum(each.count for each in runs[-1]) if runs else 0
            if runs and rows + chunk.count <= CHUNK_ROWS:
                runs[-1].append(chunk)
            else:
                runs.append([chunk])
        longer = [run for run in runs if len(run) > 1]
        for run in longer:
            frame = pl.concat(
                [_read(chunk, stream.instrument) for chunk in run], how="diagonal_relaxed"
            )
            columns = chunk_of(frame, run[0].sequence, run[-1].through)
            stream.chunks.filter(
                sequence__gte=run[0].sequence, sequence__lte=run[-1].sequence
            ).delete()
            SampleChunk(stream=stream, **columns).save(force_insert=True)
        held = stream.chunks.aggregate(sum=Sum(OctetLength("data")))["sum"] or 0
        Stream.objects.filter(pk=stream.pk).update(short=0, bytes=held)
    return bool(longer)


def _read(chunk: SampleChunk, called: str) -> pl.DataFrame:
    return read_chunk(bytes(chunk.data), called)
