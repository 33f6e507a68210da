"""What the log is asked: runs and outcomes by words and by what they are of, and sums of them.

What is alike in an outcome is kept once (`Facet`) and counted by month, so sums are of some thousand rows however long the log is. Words are
looked for in the facets, and in the notes of runs.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import UTC, date, datetime, time
from functools import cached_property
from typing import TYPE_CHECKING, Any

from django.db.models import Count, F, FloatField, Q, Sum
from django.db.models.functions import Ln, TruncMonth

from eskel_server.accounts import current_workshop

from .queries import runs_of

if TYPE_CHECKING:
    from django.db.models import QuerySet

    from .models import FacetMonth, OutcomeRecord, Run

MOST_AT_ONCE = 50
MOST_NOTED = 300
READ_AT_ONCE = 1_500
# Words of two letters are in every text, and no index finds them.
SHORTEST_IN_NOTES = 3
FIELDS = ("piece_name", "metal", "kind", "grade", "torch", "outcome", "wire", "sheet")
WELL, WRONG = "well", "wrong"


@dataclass(frozen=True)
class Asked:
    """What is asked for: words, each of which is found; what it is of, empty for any (`outcome` may be `well` or `wrong`); not before the first day of a month."""

    words: tuple[str, ...] = ()
    piece_name: str = ""
    metal: str = ""
    kind: str = ""
    grade: str = ""
    torch: str = ""
    outcome: str = ""
    wire: str = ""
    sheet: str = ""
    since: date | None = None

    @cached_property
    def of(self) -> dict[str, Any]:
        """What it is of, as facets have it."""
        told = {name: value for name in FIELDS if (value := getattr(self, name))}
        if told.get("outcome") in (WELL, WRONG):
            told["sound"] = told.pop("outcome") == WELL
        return told

    @property
    def since_at(self) -> datetime | None:
        """The moment at which the first day begins."""
        return None if self.since is None else datetime.combine(self.since, time(), UTC)


@dataclass(frozen=True)
class RunLine:
    """A run as the log lists it: how far it came, how often each outcome was said, how many notes it has."""

    id: int
    piece_name: str
    state: str
    started_at: datetime
    ended_at: datetime | None
    step_count: int
    steps_done: int
    notes: int
    outcomes: dict[str, int]


@dataclass(frozen=True)
class TimedHeat:
    """A heat with its times, s: foretold, and from the lit flame to the last sign."""

    run: int
    torch: str
    at: datetime
    told_s: float
    took_s: float
    sound: bool


class Chosen:
    """The outcomes that are asked for: of facets that hold it all, and of the newest runs whose notes hold what those do not."""

    def __init__(self, asked: Asked) -> None:
        """Look the notes up; nothing else is asked yet."""
        from .models import StepRecord

        self.asked = asked
        self.workshop = current_workshop()
        noted = StepRecord.objects.filter(run__workshop=self.workshop).exclude(note="").order_by("-run_id")
        self.noted: dict[str, set[int]] = {
            word: set(noted.filter(note__icontains=word).values_list("run_id", flat=True)[:MOST_NOTED])
            for word in asked.words
            if len(word) >= SHORTEST_IN_NOTES
        }

    def facets(self, prefix: str = "") -> Q:
        """Give what a facet must be to hold all that is asked."""
        holds = Q(**{f"{prefix}{name}": value for name, value in self.asked.of.items()})
        for word in self.asked.words:
            holds &= Q(**{f"{prefix}text__contains": word.lower()})
        return holds

    @cached_property
    def keys(self) -> list[int] | None:
        """The facets that hold all that is asked; None for any."""
        from .models import Facet

        if not self.asked.of and not self.asked.words:
            return None
        return list(Facet.objects.filter(self.facets(), workshop=self.workshop).values_list("pk", flat=True))

    def months(self) -> QuerySet[FacetMonth]:
        """Give what is counted by month of the facets that hold it all."""
        from .models import FacetMonth

        found = FacetMonth.objects.filter(self.facets("facet__"), facet__workshop=self.workshop)
        return found.filter(month__gte=self.asked.since) if self.asked.since else found

    def by_facets(self) -> QuerySet[OutcomeRecord]:
        """Give the outcomes of facets that hold it all, the newest first."""
        found = self._standing()
        return found if self.keys is None else found.filter(facet_id__in=self.keys)

    def by_notes(self) -> QuerySet[OutcomeRecord] | None:
        """Give the outcomes that hold it all with the notes of their runs alone, the newest first; None where no note holds any word."""
        runs = self._runs_noted
        if not runs:
            return None
        of = {f"facet__{name}": value for name, value in self.asked.of.items()}
        found = self._standing().filter(run_id__in=runs, **of)
        for word in self.asked.words:
            held = Q(facet__text__contains=word.lower())
            found = found.filter(held | Q(run_id__in=self.noted[word]) if self.noted.get(word) else held)
        return found.exclude(self.facets("facet__"))

    @cached_property
    def _runs_noted(self) -> set[int]:
        """The runs whose notes may make up for what facets do not hold: a word that no facet holds at all is in the notes of each."""
        from .models import Facet

        facets = Facet.objects.filter(workshop=self.workshop)
        alone = [word for word in self.asked.words if not facets.filter(text__contains=word.lower()).exists()]
        if alone:
            return set.intersection(*(self.noted.get(word, set()) for word in alone))
        return set().union(*self.noted.values())

    def _standing(self) -> QuerySet[OutcomeRecord]:
        from .models import OutcomeRecord

        found = OutcomeRecord.objects.filter(workshop=self.workshop, facet__isnull=False).order_by(
            "-at", "-pk"
        )
        return found.filter(at__gte=self.asked.since_at) if self.asked.since_at else found


def find_runs(chosen: Chosen, most: int) -> list[RunLine]:
    """Give the newest runs that have an outcome that is asked for, or that hold every word where only words are asked for."""
    asked = chosen.asked
    if not asked.words and not asked.of:
        found = runs_of().filter(started_at__gte=asked.since_at) if asked.since_at else runs_of()
        return _lines(list(found[:most]))
    keys = _newest_runs(chosen, most)
    noted = chosen.by_notes()
    if noted is not None:
        keys |= set(noted.values_list("run_id", flat=True)[:READ_AT_ONCE])
    if not asked.of:
        keys |= set(_named(chosen).values_list("pk", flat=True)[:most])
    return _lines(list(runs_of().filter(pk__in=keys)[:most]))


def _newest_runs(chosen: Chosen, most: int) -> set[int]:
    """Give so many runs with outcomes of the facets, the newest: read piece by piece, within the months that have them."""
    found: set[int] = set()
    for low, high in _spans(chosen):
        outcomes = chosen.by_facets().filter(at__gte=low, at__lt=high)
        found.update(outcomes.values_list("run_id", flat=True)[: 4 * READ_AT_ONCE])
        if len(found) >= most:
            break
    return found


def _spans(chosen: Chosen) -> Iterator[tuple[datetime, datetime]]:
    """Give spans of whole months, the newest first, each with some outcomes to read."""
    counted = chosen.months().values("month").annotate(some=Sum("times")).order_by("-month")
    high, some = None, 0
    months = [(row["month"], row["some"]) for row in counted if row["some"] > 0]
    for month, times in months:
        high = high or _month_after(month)
        some += times
        if some >= READ_AT_ONCE or month == months[-1][0]:
            yield _midnight(month), _midnight(high)
            high, some = None, 0


def _month_after(month: date) -> date:
    return date(month.year + month.month // 12, month.month % 12 + 1, 1)


def _midnight(day: date) -> datetime:
    return datetime.combine(day, time(), UTC)


def _named(chosen: Chosen) -> QuerySet[Run]:
    """Give the runs whose piece, state or notes hold every word, the newest first."""
    from .models import Run, StepMonth

    found = runs_of().filter(started_at__gte=chosen.asked.since_at) if chosen.asked.since_at else runs_of()
    # Of what was not gone on with at all no step is counted: the newest runs have its name.
    names = set(
        StepMonth.objects.filter(workshop=chosen.workshop).values_list("piece_name", flat=True).distinct()
    )
    names |= set(runs_of().values_list("piece_name", flat=True)[:MOST_AT_ONCE])
    for word in chosen.asked.words:
        called = [name for name in names if word.lower() in name.lower()]
        states = [state for state, _ in Run.STATES if word.lower() in state]
        noted = chosen.noted.get(word, set())
        if not (called or states or noted):
            return found.none()
        found = found.filter(Q(piece_name__in=called) | Q(state__in=states) | Q(pk__in=noted))
    return found


def sums_of(chosen: Chosen, dims: Sequence[str]) -> list[dict[str, Any]]:
    """Give the sums of what is asked for by some of `month`, `kind`, `grade`, `torch`, `sound`, `outcome`: `times`, `heats`, `log_ratio`, `solder_mg`."""
    names = {name: name if name == "month" else f"facet__{name}" for name in dims}
    sums = {name: Sum(name) for name in ("times", "heats", "log_ratio", "solder_mg")}
    rows = list(chosen.months().order_by().values(*names.values()).annotate(**_apart(sums)))
    noted = chosen.by_notes()
    if noted is not None:
        ratio = Sum(Ln(F("took_s") / F("told_s"), output_field=FloatField()), default=0.0)
        counted = {
            "times": Count("pk"),
            "heats": Count("told_s"),
            "log_ratio": ratio,
            "solder_mg": Sum("solder_mg"),
        }
        named = noted.order_by().annotate(month=TruncMonth("at", tzinfo=UTC)).values(*names.values())
        rows += list(named.annotate(**_apart(counted)))
    found: dict[tuple[Any, ...], dict[str, Any]] = {}
    for row in rows:
        key = tuple(_day(row[name]) for name in names.values())
        held = found.setdefault(key, {**dict(zip(names, key, strict=True)), **dict.fromkeys(sums, 0)})
        for name in sums:
            held[name] += row[f"sum_{name}"]
    return [row for row in found.values() if row["times"] > 0]


def _apart(sums: dict[str, Any]) -> dict[str, Any]:
    """Name sums so that they are not taken for the columns that they are of."""
    return {f"sum_{name}": sum_ for name, sum_ in sums.items()}


def _day(value: Any) -> Any:
    return value.date() if isinstance(value, datetime) else value


def without_a_word(chosen: Chosen) -> list[tuple[str, int]]:
    """Give of each word how many outcomes there would be if it were not asked for: those of which there are any, the most first."""
    asked = chosen.asked
    found = []
    for word in dict.fromkeys(asked.words):
        rest = tuple(one for one in asked.words if one != word)
        counted = Chosen(replace(asked, words=rest)).months().aggregate(some=Sum("times"))["some"]
        found.append((word, counted or 0))
    return sorted((one for one in found if one[1] > 0), key=lambda one: -one[1])


def timed_heats(chosen: Chosen, most: int) -> list[TimedHeat]:
    """Give the newest heats with times that have an outcome that is asked for, the newest first."""
    columns = ("run_id", "facet__torch", "at", "told_s", "took_s", "facet__sound")
    rows: list[tuple[Any, ...]] = []
    for low, high in _spans(chosen):
        timed = chosen.by_facets().filter(at__gte=low, at__lt=high, told_s__isnull=False)
        rows += timed.values_list(*columns)[:most]
        if len(rows) >= most:
            break
    noted = chosen.by_notes()
    if noted is not None:
        rows += noted.filter(told_s__isnull=False).values_list(*columns)[:most]
    return sorted((TimedHeat(*row) for row in rows), key=lambda one: one.at, reverse=True)[:most]


def step_times(chosen: Chosen) -> list[tuple[str, int, float]]:
    """Give of each kind of step, of the pieces that are asked for, how many there were and how long they took together, s."""
    from .models import StepMonth

    asked = chosen.asked
    found = StepMonth.objects.filter(workshop=chosen.workshop)
    if asked.of or asked.words:
        found = found.filter(piece_name__in=set(chosen.months().values_list("facet__piece_name", flat=True)))
    if asked.since:
        found = found.filter(month__gte=asked.since)
    rows = found.order_by().values("kind").annotate(some=Sum("times"), took=Sum("seconds"))
    return [(row["kind"], row["some"], row["took"]) for row in rows if row["some"] > 0]


def choices() -> dict[str, list[str]]:
    """Give by what the log can be asked, and of each what there is in it."""
    from .models import Facet

    facets = Facet.objects.filter(workshop=current_workshop())
    return {
        name: sorted(facets.exclude(**{name: ""}).order_by().values_list(name, flat=True).distinct())
        for name in FIELDS
    }


def _lines(runs: list[Run]) -> list[RunLine]:
    from .models import OutcomeRecord, StepRecord

    keys = [run.pk for run in runs]
    steps = StepRecord.objects.filter(run_id__in=keys).order_by().values_list("run_id")
    done = dict(steps.exclude(ended_at=None).annotate(times=Count("pk")))
    noted = dict(steps.exclude(note="").annotate(times=Count("pk")))
    said: dict[int, dict[str, int]] = {}
    standing = OutcomeRecord.objects.filter(run_id__in=keys, taken_back_at=None).order_by()
    for key, outcome, times in standing.values_list("run_id", "outcome").annotate(times=Count("pk")):
        said.setdefault(key, {})[outcome] = times
    return [
        RunLine(
            id=run.pk,
            piece_name=run.piece_name,
            state=run.state,
            started_at=run.started_at,
            ended_at=run.ended_at,
            step_count=run.step_count,
            steps_done=done.get(run.pk, 0),
            notes=noted.get(run.pk, 0),
            outcomes=said.get(run.pk, {}),
        )
        for run in runs
    ]
