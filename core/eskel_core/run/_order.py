"""The order in which events count: by the server's clock as each device knew it, those of one device as it wrote them."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field

from ._events import Event

Timed = list[tuple[int, Event]]
_Key = tuple[int, str, int]


def in_order(events: Iterable[Event]) -> Timed:
    """Give events, each once, in the order in which they count, with their times by the server's clock, ms."""
    timed = Order().after({event.id: event for event in events}.values())
    assert timed is not None  # After nothing comes everything.
    return timed


@dataclass(frozen=True)
class _Device:
    """How far a device has written: its latest time, how many events, the last event's number and id."""

    latest_ms: int = 0
    count: int = 0
    last: tuple[int, str] = (0, "")


@dataclass
class Order:
    """How far events were put in order: more can be put after them as long as they come after them."""

    _devices: dict[str, _Device] = field(default_factory=dict)
    _last: _Key = (-1, "", -1)

    def after(self, events: Iterable[Event]) -> Timed | None:
        """Put events after those before, with their times, ms; None, and nothing changed, where some come before one of those."""
        by_device: dict[str, list[Event]] = {}
        for event in sorted(events, key=lambda each: (each.seq, each.id)):
            by_device.setdefault(event.device, []).append(event)
        keyed: list[tuple[_Key, Event]] = []
        devices = dict[str, _Device]()
        for name, written in by_device.items():
            known = self._devices.get(name, _Device())
            if (written[0].seq, written[0].id) <= known.last:
                return None
            devices[name] = _timed(name, known, written, keyed)
        keyed.sort(key=lambda each: each[0])
        if keyed and keyed[0][0] <= self._last:
            return None
        if keyed:
            self._last = keyed[-1][0]
        self._devices |= devices
        return [(key[0], event) for key, event in keyed]


def _timed(name: str, known: _Device, written: Sequence[Event], keyed: list[tuple[_Key, Event]]) -> _Device:
    latest = known.latest_ms
    for n, event in enumerate(written, start=known.count):
        latest = max(latest, event.at_ms + event.ahead_ms)
        keyed.append(((latest, name, n), event))
    return _Device(latest, known.count + len(written), (written[-1].seq, written[-1].id))
