"""Readings: the newest word on each, places pooled by piece and instrument, and the whole log."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from decimal import Decimal
from uuid import UUID

from sqlalchemy import ARRAY, Integer, Uuid, any_, bindparam, cast, func, select, text, true
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import aliased

from nomisma.core.measuring.disposition import OUT_DISPOSITIONS
from nomisma.core.measuring.feature import ReadingGroup, expanded_uncertainty_mm, pooled
from nomisma.core.part.feature import Acceptance, State
from nomisma.core.part.feature import Feature as RequiredFeature
from nomisma.store.by_version import by_version
from nomisma.store.checks import failed_calibrations
from nomisma.store.models import Account, Feature, Instrument, Reading, SuspectReading

_later = aliased(Reading)
_STANDS = (~select(_later.id).where(_later.supersedes_id == Reading.id).exists(), ~Reading.withdrawn)
"""A reading stands unless another supersedes it; a withdrawal supersedes without standing itself."""


@dataclass(frozen=True, slots=True)
class LoggedReading:
    """A reading with who took it, with what, whether it still stands, and what was asked before it was believed."""

    row: Reading
    by: str
    instrument: Instrument
    superseded_by: UUID | None
    suspect: SuspectReading | None = None

    @property
    def stands(self) -> bool:
        """Whether this is the newest word."""
        return self.superseded_by is None and not self.row.withdrawn

    @property
    def uncertainty_mm(self) -> Decimal:
        """Expanded uncertainty (mm, k = 2) of this reading."""
        return self.row.uncertainty_mm or uncertainty_of(self.instrument)

    def state_within(self, feature: RequiredFeature, acceptance: Acceptance) -> State | None:
        """What it says of a feature with limits, by that rule; None where there are no limits."""
        if not feature.is_judged:
            return None
        return feature.judge(
            self.row.size_mm, self.uncertainty_mm, acceptance, half_bracket_mm=self.row.half_bracket_mm
        )

    @property
    def as_read_mm(self) -> Decimal:
        """What the instrument showed, mm."""
        return self.row.size_mm if self.row.read_mm is None else self.row.read_mm


def uncertainty_of(instrument: Instrument) -> Decimal:
    """Expanded uncertainty (mm, k = 2) of one reading with an instrument."""
    return expanded_uncertainty_mm(instrument.resolution_mm, instrument.permitted_error_mm, instrument.repeatability_mm)


NEWEST_READINGS = 24
"""How many of a feature's newest readings a page shows, and how far from round it was is seen from."""
_LOG = (
    select(Reading, Account.name, Instrument, _later.id, SuspectReading)
    .join(Account, Account.id == Reading.by_id)
    .join(Instrument, Instrument.id == Reading.instrument_id)
    .outerjoin(_later, _later.supersedes_id == Reading.id)
    .outerjoin(SuspectReading, SuspectReading.id == Reading.suspect_id)
    .where(Reading.feature_id == bindparam("feature_id"))
    .order_by(Reading.sequence.desc())
    .limit(bindparam("last", type_=Integer))
)
LARGEST_SEQUENCE = 2**63 - 1  # of PostgreSQL's bigint
_OLDER = _LOG.where(Reading.sequence < bindparam("before"))


@by_version("job")
def log(
    session: OrmSession, feature_id: UUID, *, last: int | None = None, before: int | None = None
) -> list[LoggedReading]:
    """A feature's readings in the order they were logged, superseded ones too; only the `last` so many if given.

    `before` is a sequence number: only what was logged before it (keyset paging, as fast on the last page as on the
    first).
    """
    asked = {"feature_id": feature_id, "last": last}
    found = session.execute(
        _LOG if before is None else _OLDER,
        asked if before is None else {**asked, "before": min(before, LARGEST_SEQUENCE)},
    ).all()
    return [LoggedReading(*row) for row in reversed(found)]


_NEWEST_SIZES = (
    select(Reading.cut_number, Reading.size_mm)
    .where(Reading.feature_id == bindparam("feature_id"), Reading.piece == bindparam("piece"), *_STANDS)
    .order_by(Reading.sequence.desc())
    .limit(bindparam("last", type_=Integer))
)


def newest_sizes(session: OrmSession, feature_id: UUID, piece: str, *, last: int) -> list[tuple[int, Decimal]]:
    """The newest standing sizes (mm) of a piece's feature, each after its cut, newest first."""
    asked = {"feature_id": feature_id, "piece": piece, "last": last}
    return [(cut, size) for cut, size in session.execute(_NEWEST_SIZES, asked)]


_one = aliased(Reading)
_newest_of_each = (
    select(_one.id)
    .where(_one.feature_id == Feature.id)
    .order_by(_one.sequence.desc())
    .limit(bindparam("last", type_=Integer))
    .lateral("newest_of_each")
)
_LOGS = (
    select(Reading, Account.name, Instrument, _later.id, SuspectReading)
    .select_from(Feature)
    .join(_newest_of_each, true())
    .join(Reading, Reading.id == _newest_of_each.c.id)
    .join(Account, Account.id == Reading.by_id)
    .join(Instrument, Instrument.id == Reading.instrument_id)
    .outerjoin(_later, _later.supersedes_id == Reading.id)
    .outerjoin(SuspectReading, SuspectReading.id == Reading.suspect_id)
    .where(Feature.id == any_(cast(bindparam("feature_ids"), ARRAY(Uuid()))))
    .order_by(Reading.sequence)
)


@by_version("job")
def logs(
    session: OrmSession, feature_ids: Sequence[UUID], *, last: int | None = None
) -> dict[UUID, list[LoggedReading]]:
    """The readings of many features at once, by feature, each in the order they were logged; only the `last` so many of
    each if given.
    """
    found: dict[UUID, list[LoggedReading]] = {}
    for row in session.execute(_LOGS, {"feature_ids": list(feature_ids), "last": last}):
        found.setdefault(row[0].feature_id, []).append(LoggedReading(*row))
    return found


@dataclass(frozen=True)
class Extremes:
    """The standing readings of one feature: groups by piece, place and instrument, when the newest was taken, and how
    many are in doubt.

    `earlier`: those from before the last cut of each piece that nobody decided about since, by piece and instrument.
    `last_cuts`: the number of each piece's last cut, of those that have readings that stand.
    """

    groups: tuple[ReadingGroup, ...]
    newest_at: datetime | None = None
    calibration_failed: int = 0
    earlier: tuple[ReadingGroup, ...] = ()
    last_cuts: Mapping[str, int] = field(default_factory=dict)

    @property
    def count(self) -> int:
        """How many readings stand."""
        return sum(group.count for group in self.groups)

    def of_piece(self, piece: str) -> "Extremes":
        """Only those of one piece."""
        return Extremes(
            tuple(group for group in self.groups if group.piece == piece),
            self.newest_at,
            self.calibration_failed,
            tuple(group for group in self.earlier if group.piece == piece),
            {known: cut for known, cut in self.last_cuts.items() if known == piece},
        )

    def at_place(self, place: str) -> "Extremes":
        """Only those at one place, since the last cut."""
        return Extremes(tuple(group for group in self.groups if group.place == place))

    @property
    def pieces(self) -> list[str]:
        """Serials, in the order they were first measured since their last cut."""
        return list(dict.fromkeys(group.piece for group in self.groups))

    @property
    def smallest_mm(self) -> Decimal:
        """The smallest reading, mm."""
        return min(group.smallest_mm for group in self.groups)

    @property
    def largest_mm(self) -> Decimal:
        """The largest reading, mm."""
        return max(group.largest_mm for group in self.groups)


NO_READINGS = Extremes(())


_EXTREMES = text("""
    WITH RECURSIVE asked AS (
        SELECT id FROM unnest(CAST(:feature_ids AS uuid[])) AS f(id)
    ), piece_cut AS (
        -- The last cut of every piece, a few index probes each, however long the log.
        SELECT first.* FROM asked CROSS JOIN LATERAL (
            SELECT feature_id, piece, cut_number FROM reading WHERE feature_id = asked.id
            ORDER BY piece, cut_number DESC LIMIT 1
        ) AS first
        UNION ALL
        SELECT later.* FROM piece_cut p CROSS JOIN LATERAL (
            SELECT feature_id, piece, cut_number FROM reading WHERE feature_id = p.feature_id AND piece > p.piece
            ORDER BY piece, cut_number DESC LIMIT 1
        ) AS later
    ), last AS (
        SELECT p.*, (
            SELECT max(d.at) FROM disposition d
            WHERE d.feature_id = p.feature_id AND d.piece = p.piece AND d.kind = ANY(CAST(:decided AS text[]))
        ) AS decided_at
        FROM piece_cut p
    )
    SELECT last.feature_id, last.piece, g.at_place, coalesce(i.of_id, i.id), g.uncertainty_mm, g.half_bracket_mm,
           i.resolution_mm, i.permitted_error_mm, i.repeatability_mm,
           g.count, g.mean, g.smallest, g.largest, last.cut_number, g.newest, g.of_now
    FROM last CROSS JOIN LATERAL (
        SELECT r.of_now, CASE WHEN r.of_now THEN r.place ELSE '' END AS at_place, r.instrument_id, r.uncertainty_mm,
               r.half_bracket_mm, count(*), avg(r.size_mm) AS mean, min(r.size_mm) AS smallest,
               max(r.size_mm) AS largest, max(r.at) AS newest, min(r.sequence) AS first
        FROM (
            SELECT *, cut_number = last.cut_number AS of_now FROM reading
            WHERE feature_id = last.feature_id AND piece = last.piece OFFSET 0
        ) AS r
        WHERE NOT r.withdrawn AND (r.of_now OR last.decided_at IS NULL OR r.at > last.decided_at)
          AND NOT EXISTS (SELECT FROM reading later WHERE later.supersedes_id = r.id)
        GROUP BY r.of_now, at_place, r.instrument_id, r.uncertainty_mm, r.half_bracket_mm
    ) AS g
    JOIN instrument i ON i.id = g.instrument_id
    ORDER BY g.first
    """)


def extremes(session: OrmSession, feature_ids: Sequence[UUID]) -> dict[UUID, Extremes]:
    """The standing readings by feature, repeats of one place pooled.

    Only those since the last cut of each piece: what was measured before metal came off says nothing of it now, but
    where it was gone too far then. `earlier` has those.
    """
    found: dict[UUID, list[ReadingGroup]] = {}
    newest: dict[UUID, datetime] = {}
    doubted: dict[UUID, int] = {}
    earlier: dict[UUID, list[ReadingGroup]] = {}
    cuts: dict[UUID, dict[str, int]] = {}
    windows = failed_calibrations(session)
    asked = {"feature_ids": list(feature_ids), "decided": list(OUT_DISPOSITIONS)}
    for feature_id, *columns, cut_number, at, of_now in session.execute(_EXTREMES, asked):
        cuts.setdefault(feature_id, {})[columns[0]] = cut_number
        if not of_now:
            earlier.setdefault(feature_id, []).append(_as_read(*columns))
            continue
        group = _group(*columns)
        found.setdefault(feature_id, []).append(group)
        newest[feature_id] = max(at, newest.get(feature_id, at))
        if any(window.holds(at) for window in windows.get(UUID(group.instrument), ())):
            doubted[feature_id] = doubted.get(feature_id, 0) + group.count
    return {
        key: Extremes(
            tuple(found.get(key, ())), newest.get(key), doubted.get(key, 0), tuple(earlier.get(key, ())), cuts[key]
        )
        for key in dict.fromkeys((*found, *earlier))
    }


def _group(
    piece: str,
    place: str,
    instrument: UUID,
    own: Decimal | None,
    half_bracket: Decimal | None,
    resolution: Decimal,
    permitted: Decimal,
    repeatability: Decimal,
    count: int,
    mean: Decimal,
    smallest: Decimal,
    largest: Decimal,
) -> ReadingGroup:
    worth = _worth(own, resolution, permitted, repeatability)
    low, high, uncertainty = pooled(count, mean.quantize(_TAIL), smallest, largest, worth, repeatability)
    return ReadingGroup(count, low, high, uncertainty, place, piece, str(instrument), half_bracket)


def _as_read(
    piece: str,
    place: str,
    instrument: UUID,
    own: Decimal | None,
    half_bracket: Decimal | None,
    resolution: Decimal,
    permitted: Decimal,
    repeatability: Decimal,
    count: int,
    _mean: Decimal,
    smallest: Decimal,
    largest: Decimal,
) -> ReadingGroup:
    """Readings of several cuts together: they are no repeats, so nothing is pooled."""
    worth = _worth(own, resolution, permitted, repeatability)
    return ReadingGroup(count, smallest, largest, worth, place, piece, str(instrument), half_bracket)


def _worth(own: Decimal | None, resolution: Decimal, permitted: Decimal, repeatability: Decimal) -> Decimal:
    """What one reading is worth (mm, k = 2): as it was kept with it, else by its instrument."""
    return own or expanded_uncertainty_mm(resolution, permitted, repeatability)


_TAIL = Decimal("1e-9")


@by_version("job")
def last_cut_number(session: OrmSession, feature_id: UUID, piece: str = "") -> int:
    """The cut after which the newest reading of a piece's feature was taken; 0 is before the first."""
    query = select(func.max(Reading.cut_number)).where(Reading.feature_id == feature_id, Reading.piece == piece)
    return session.scalar(query) or 0


def standing(session: OrmSession, reading_id: UUID) -> Reading | None:
    """A reading that may be superseded; None where there is none or it has been already."""
    return session.scalar(select(Reading).where(Reading.id == reading_id, *_STANDS))


def standing_ids(session: OrmSession, feature_id: UUID, piece: str, cut_number: int) -> list[str]:
    """The standing readings of one feature of a piece since a cut, oldest first: what a disposition is tied to."""
    query = (
        select(Reading.id)
        .where(Reading.feature_id == feature_id, Reading.piece == piece, Reading.cut_number == cut_number, *_STANDS)
        .order_by(Reading.sequence)
    )
    return [str(found) for found in session.scalars(query)]


@dataclass(frozen=True, slots=True)
class BatchReading:
    """One standing reading of a batch since its piece's last cut: serial, place, size and worth (mm, k = 2)."""

    piece: str
    place: str
    size_mm: Decimal
    uncertainty_mm: Decimal
    half_bracket_mm: Decimal | None = None


@by_version("job")
def of_batch(session: OrmSession, feature_id: UUID) -> list[BatchReading]:
    """Every standing reading of a feature of all pieces since each one's last cut, in the order taken."""
    last = (
        select(Reading.piece, func.max(Reading.cut_number).label("cut"))
        .where(Reading.feature_id == feature_id)
        .group_by(Reading.piece)
        .subquery()
    )
    query = (
        select(Reading, Instrument)
        .join(Instrument, Instrument.id == Reading.instrument_id)
        .join(last, (last.c.piece == Reading.piece) & (last.c.cut == Reading.cut_number))
        .where(Reading.feature_id == feature_id, *_STANDS)
        .order_by(Reading.sequence)
    )
    return [
        BatchReading(
            row.piece, row.place, row.size_mm, row.uncertainty_mm or uncertainty_of(instrument), row.half_bracket_mm
        )
        for row, instrument in session.execute(query)
    ]
