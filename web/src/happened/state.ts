/**
 * From the steps of a plan and the events of a run to what the run looks like: the core's own function (`run/`), held to it by
 * shared cases. The order in which events arrive counts for nothing, and one that arrives twice counts once.
 */
import type {
  Aside,
  Face,
  MovingEvent,
  Outcome,
  RunEvent,
  RunState,
  Turn,
  TurnEvent,
  Way,
  WhyAside,
  WordSet,
} from "./events";
import { nothingWritten, Writing } from "./written";

const AFTER = new Set(["cool", "pickle", "inspect"]);
/** The words of each kind of heat, as the core has them. */
const WORDS: Record<WordSet, Set<Outcome>> = {
  join: new Set(["flowed", "short", "did-not-flow", "flooded", "moved", "opened-another", "melted"]),
  anneal: new Set(["soft", "still-hard", "too-hot"]),
  ball: new Set(["size", "dropped", "out-of-round"]),
  pour: new Set(["full", "short", "fold"]),
  done: new Set(["done", "short", "too-hot"]),
};
const INTO_THE_POT = ["cool", "pickle"] as const;

export function runState(faces: Face[], beganMs: number, events: Iterable<RunEvent>): RunState {
  const tale = new Tale(faces, beganMs);
  // Nothing happens in a run before it begins, whatever a clock says.
  for (const { atMs, event } of inOrder(events)) tale.take(event, Math.max(beganMs, atMs));
  return tale.told();
}

/** Events, each once, in the order in which they count, with their times by the server's clock. */
export function inOrder(events: Iterable<RunEvent>): { atMs: number; event: RunEvent }[] {
  const each = new Map([...events].map((event) => [event.id, event]));
  const all = [...each.values()].sort((a, b) => a.seq - b.seq || compare(a.id, b.id));
  const latest = new Map<string, { atMs: number; n: number }>();
  const timed = all.map((event) => {
    const before = latest.get(event.device) ?? { atMs: 0, n: -1 };
    const mine = { atMs: Math.max(before.atMs, event.at_ms + (event.ahead_ms ?? 0)), n: before.n + 1 };
    latest.set(event.device, mine);
    return { ...mine, event };
  });
  return timed.sort((a, b) => a.atMs - b.atMs || compare(a.event.device, b.event.device) || a.n - b.n);
}

function compare(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}

/** A run as it is being told: its turns in their order. */
class Tale {
  private readonly turns: Turn[];
  private here = 0;
  private standing: RunState["standing"] = "going";
  private endedMs: number | null = null;
  private readonly aside: Aside[] = [];
  /** Who moved the run on last. */
  private mover: string | null = null;
  private readonly writing = new Map<string, Writing>();
  private readonly belongs = new Map<string, string>();
  /** Where each turn stands by its id, and how often each step was done. */
  private readonly places = new Map<string, number>();
  private readonly times = new Map<number, number>();

  constructor(
    private readonly faces: Face[],
    private readonly beganMs: number,
  ) {
    this.turns = faces.filter((face) => !face.extra).map((_, n) => blank(String(n + 1), n + 1));
    for (const { step } of this.turns) this.times.set(step, 1);
    this.findPlaces(0);
    this.enter(0, beganMs);
  }

  told(): RunState {
    for (const [id, writing] of this.writing) Object.assign(this.turn(this.place(id)), writing.stands());
    return {
      standing: this.standing,
      at: this.turn(this.here).id,
      turns: this.turns,
      began_ms: this.beganMs,
      ended_ms: this.endedMs,
      aside: this.aside,
    };
  }

  /** Let an event count, or set it aside. */
  take(event: RunEvent, atMs: number): void {
    const why = this.wrong(event);
    if (why !== null) {
      const moved = why === "elsewhere" || why === "over";
      const other = moved && this.mover !== null && this.mover !== event.device;
      this.aside.push({ event: event.id, why, other });
      return;
    }
    if (event.kind === "undo") this.undo(event.of);
    else if (isMoving(event)) {
      this.move(event, atMs);
      this.mover = event.device;
    } else {
      this.written(event.turn).add({ atMs, event });
      this.belongs.set(event.id, event.turn);
    }
  }

  /** Why an event cannot count as the run stands, if so. */
  private wrong(event: RunEvent): WhyAside | null {
    if (event.kind === "undo") return this.belongs.has(event.of) ? null : "not-there";
    const at = this.place(event.turn);
    const turn = this.turns[at];
    if (!turn || turn.stays.length === 0) return "not-there";
    if (!isMoving(event)) return this.beyond(event, turn);
    if (this.standing !== "going") return "over";
    return at === this.here ? this.held(event) : "elsewhere";
  }

  /** Why a run that stands at a turn cannot be moved from it so. */
  private held(event: MovingEvent): WhyAside | null {
    const turn = this.turn(this.here);
    switch (event.kind) {
      case "next": {
        if (this.face(turn).confirm && !event.confirmed && !turn.confirmed) return "unconfirmed";
        const written = this.written(turn.id);
        return event.skipped || this.joins(turn).every((join) => written.saidOf(join, this.alike(turn, join)))
          ? null
          : "open";
      }
      case "back":
        return this.here === 0 ? "first" : null;
      case "again": {
        if (event.steps?.length) return this.canBePutIn(event.steps, event.joins ?? []) ? null : "beyond";
        const joins = this.faces[this.heatOf(event) ?? -1]?.joins;
        return joins && (event.joins ?? []).every((join) => joins.includes(join)) ? null : "beyond";
      }
      case "stop":
        return null;
    }
  }

  /** Whether another try is of steps that there are, for joins that they make. */
  private canBePutIn(steps: number[], joins: string[]): boolean {
    const made = new Set(steps.flatMap((step) => this.faces[step - 1]?.joins ?? []));
    return steps.every((step) => step <= this.faces.length) && joins.every((join) => made.has(join));
  }

  /** Whether a turn can have a word: on a join of it, or on its work, in copies that there are. */
  private fits(event: Extract<TurnEvent, { kind: "outcome" }>, turn: Turn): boolean {
    const face = this.face(turn);
    const most = Math.max(0, ...(event.copies ?? []));
    if (event.join === face.work) return WORDS[face.words ?? "join"].has(event.outcome) && most <= face.alike;
    return (
      this.joins(turn).includes(event.join) &&
      WORDS.join.has(event.outcome) &&
      most <= this.alike(turn, event.join)
    );
  }

  private alike(turn: Turn, join: string): number {
    const face = this.face(turn);
    return face.each?.[face.joins.indexOf(join)] ?? 1;
  }

  /** Why something cannot be written of a turn. */
  private beyond(event: TurnEvent, turn: Turn): WhyAside | null {
    const face = this.face(turn);
    const lit = this.written(turn.id).lit;
    switch (event.kind) {
      case "lit":
        return face.kind === "heat" ? null : "beyond";
      case "sign":
        return event.stage > face.stages ? "beyond" : lit ? null : "unlit";
      case "off":
        return lit ? null : "unlit";
      case "outcome":
        return this.fits(event, turn) ? null : "beyond";
      case "opened":
        return face.kind === "heat" && lit ? null : "beyond";
      case "tally":
        return event.done + (event.lost ?? 0) <= face.alike ? null : "beyond";
      case "look":
        return event.check <= face.checks ? null : "beyond";
      case "lost":
      case "note":
      case "measure":
        return null;
    }
  }

  private move(event: MovingEvent, atMs: number): void {
    const turn = this.turn(this.here);
    switch (event.kind) {
      case "next":
        turn.skipped = event.skipped ?? false;
        turn.confirmed ||= event.confirmed ?? false;
        this.leave(atMs);
        if (this.here + 1 === this.turns.length) this.end("finished", atMs);
        else this.enter(this.here + 1, atMs);
        break;
      case "back":
        this.leave(atMs, true);
        this.enter(this.here - 1, atMs);
        break;
      case "stop":
        this.leave(atMs);
        this.end("stopped", atMs);
        break;
      case "again":
        this.leave(atMs);
        this.turns.splice(this.here + 1, 0, ...this.tries(event));
        this.findPlaces(this.here + 1);
        this.enter(this.here + 1, atMs);
    }
  }

  private end(standing: "finished" | "stopped", atMs: number): void {
    this.standing = standing;
    this.endedMs = atMs;
  }

  /** The place in the plan of the heat that is done again: this one, or that a look sends back to. */
  private heatOf(event: Extract<MovingEvent, { kind: "again" }>): number | null {
    const at = this.place(event.of || event.turn);
    const turn = this.turns[at];
    if (!turn || at > this.here || this.face(turn).kind !== "heat") return null;
    return turn.step - 1;
  }

  /** The turns of another try: into the pot first where that is asked, made ready, heated, and on to where it was said. */
  private tries(event: Extract<MovingEvent, { kind: "again" }>): Turn[] {
    if (event.steps?.length) {
      const steps = event.steps.map((step) => step - 1);
      return this.put(steps, event.ways ?? [], event.joins ?? []);
    }
    const heat = this.heatOf(event) ?? 0;
    const here = this.turn(this.here).step - 1;
    const kinds = this.faces.map((face) => face.kind);
    const steps = [...madeReady(kinds, heat), heat];
    if (event.ways?.includes("pickle-first")) {
      steps.unshift(...INTO_THE_POT.map((kind) => kinds.indexOf(kind, heat)).filter((n) => n >= 0));
    }
    const last = kinds.slice(0, here + 1).lastIndexOf("heat");
    steps.push(...range(last + 1, here + 1).filter((n) => AFTER.has(kinds[n] ?? "")));
    const joins = event.joins?.length ? event.joins : (this.faces[heat]?.joins ?? []);
    return this.put(steps, event.ways ?? [], joins);
  }

  /** Further turns of some steps, by their places in the sheet. */
  private put(steps: number[], ways: Way[], joins: string[]): Turn[] {
    return steps.map((n) => {
      const again = 1 + (this.times.get(n + 1) ?? 0);
      this.times.set(n + 1, again);
      const id = again === 1 ? String(n + 1) : `${String(n + 1)}.${String(again)}`;
      return { ...blank(id, n + 1), again, ways, joins };
    });
  }

  private undo(of: string): void {
    this.written(this.belongs.get(of) ?? "").takeBack(of);
    this.belongs.delete(of);
  }

  private written(turn: string): Writing {
    const known = this.writing.get(turn) ?? new Writing();
    this.writing.set(turn, known);
    return known;
  }

  private findPlaces(from: number): void {
    for (let n = from; n < this.turns.length; n += 1) this.places.set(this.turn(n).id, n);
  }

  /** Stand at a turn: at a new one its time begins, one that is come to again goes on with all that it has. */
  private enter(at: number, atMs: number): void {
    this.here = at;
    const turn = this.turn(at);
    const face = this.face(turn);
    if (turn.stays.length === 0) {
      turn.due_low_ms = dueAt(atMs, face.waits_low_ms);
      turn.due_high_ms = dueAt(atMs, face.waits_high_ms);
    }
    turn.skipped = false;
    turn.stays.push({ entered_ms: atMs, left_ms: null, back: false });
  }

  private leave(atMs: number, back = false): void {
    const last = this.turn(this.here).stays.at(-1);
    if (last) Object.assign(last, { left_ms: atMs, back });
  }

  private turn(at: number): Turn {
    const found = this.turns[at];
    if (!found) throw new Error("a run stands at one of its turns");
    return found;
  }

  private place(turn: string): number {
    return this.places.get(turn) ?? -1;
  }

  private face(turn: Turn): Face {
    const found = this.faces[turn.step - 1];
    if (!found) throw new Error("a turn is of a step of the plan");
    return found;
  }

  /** The joins that a turn makes: in another try those that it is for. */
  private joins(turn: Turn): string[] {
    return this.face(turn).joins.filter((join) => turn.again === 1 || turn.joins.includes(join));
  }
}

/** Where a heat is made ready for: of heats one after another all are, in their order, before the first of them. */
function madeReady(kinds: Face["kind"][], heat: number): number[] {
  let [first, last] = [heat, heat];
  while (kinds[first - 1] === "heat") first -= 1;
  while (kinds[last + 1] === "heat") last += 1;
  const at = first - 1 - (last - heat);
  const row = at < 0 ? [] : kinds.slice(at, first);
  return row.length > 0 && row.every((kind) => kind === "prepare") ? [at] : [];
}

const dueAt = (atMs: number, waitsMs: number | null | undefined): number | null =>
  waitsMs == null ? null : atMs + waitsMs;

function isMoving(event: RunEvent): event is MovingEvent {
  return event.kind === "next" || event.kind === "back" || event.kind === "stop" || event.kind === "again";
}

function blank(id: string, step: number): Turn {
  return {
    id,
    step,
    again: 1,
    ways: [],
    joins: [],
    stays: [],
    skipped: false,
    confirmed: false,
    due_low_ms: null,
    due_high_ms: null,
    ...nothingWritten(),
  };
}

function range(from: number, to: number): number[] {
  return Array.from({ length: Math.max(0, to - from) }, (_, n) => from + n);
}
