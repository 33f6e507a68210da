/** What stands of all that was written of a turn: of each sign the first, of each join, measure and look the last. */
import type {
  JoinWord,
  Look,
  Loss,
  Measure,
  MeasuredWhat,
  Note,
  OpenedJoin,
  SignAt,
  Standing,
  TurnEvent,
} from "./events";

export const LIT = 0;
/** By what a word is counted that is said of all that are alike. */
const ALL = 0;
export type Timed = { atMs: number; event: TurnEvent };

/** The events that were written of one turn. What stands of them is told when it is looked at, once. */
export class Writing {
  private readonly events = new Map<string, Timed>();
  private readonly said = new Map<string, Map<number, number>>();
  private litTimes = 0;

  get lit(): boolean {
    return this.litTimes > 0;
  }

  /** Whether a word stands on a join, in each of so many that are alike. */
  saidOf(join: string, alike: number): boolean {
    const said = this.said.get(join) ?? new Map<number, number>();
    return (said.get(ALL) ?? 0) > 0 || [...said.values()].filter((times) => times > 0).length >= alike;
  }

  add(timed: Timed): void {
    this.events.set(timed.event.id, timed);
    this.count(timed.event, 1);
  }

  takeBack(id: string): void {
    const timed = this.events.get(id);
    if (timed) this.count(timed.event, -1);
    this.events.delete(id);
  }

  stands(): Standing {
    return written(this.events.values());
  }

  private count(event: TurnEvent, by: number): void {
    if (event.kind === "lit") this.litTimes += by;
    if (event.kind !== "outcome") return;
    const said = this.said.get(event.join) ?? new Map<number, number>();
    this.said.set(event.join, said);
    for (const copy of event.copies?.length ? event.copies : [ALL])
      said.set(copy, (said.get(copy) ?? 0) + by);
  }
}

export const nothingWritten = (): Standing => written([]);

/** Let a word stand: of all that are alike in place of every earlier word, of some in place of those on them. */
function say(
  words: Map<string, JoinWord>,
  event: Extract<TurnEvent, { kind: "outcome" }>,
  at_ms: number,
): void {
  const copies = event.copies ?? [];
  for (const [name, word] of [...words]) {
    const left = word.copies.filter((copy) => !copies.includes(copy));
    if (word.join !== event.join || (copies.length > 0 && left.length === word.copies.length)) continue;
    words.delete(name);
    if (copies.length > 0 && left.length > 0) words.set(name, { ...word, copies: left });
  }
  words.set(event.id, { join: event.join, outcome: event.outcome, at_ms, event: event.id, copies });
}

function written(events: Iterable<Timed>): Standing {
  const signs = new Map<number, SignAt>();
  const words = new Map<string, JoinWord>();
  const opened = new Map<string, OpenedJoin>();
  const losses: Loss[] = [];
  const notes = new Map<string, Note>();
  const measures = new Map<MeasuredWhat, Measure>();
  const looks = new Map<number, Look>();
  const told = { off_ms: null as number | null, off: null as string | null, tally: 0, lost: 0 };
  const sign = (stage: number, at_ms: number, event: string) => {
    if (!signs.has(stage)) signs.set(stage, { stage, at_ms, event });
  };
  for (const { atMs: at_ms, event } of events) {
    switch (event.kind) {
      case "lit":
        sign(LIT, at_ms, event.id);
        break;
      case "sign":
        if (signs.has(LIT)) sign(event.stage, at_ms, event.id);
        break;
      case "off":
        if (signs.has(LIT)) {
          told.off_ms = at_ms;
          told.off = event.id;
        }
        break;
      case "outcome":
        say(words, event, at_ms);
        break;
      case "opened":
        opened.set(event.join, { join: event.join, at_ms, event: event.id, copies: event.copies ?? [] });
        break;
      case "lost":
        losses.push({ part: event.part, many: event.many, at_ms, event: event.id });
        break;
      case "note":
        notes.delete(event.replaces ?? "");
        if (event.text) notes.set(event.id, { event: event.id, text: event.text, at_ms });
        break;
      case "tally":
        told.tally = event.done;
        told.lost = event.lost ?? 0;
        break;
      case "measure":
        measures.set(event.what, { what: event.what, value: event.value, at_ms, event: event.id });
        break;
      case "look":
        looks.set(event.check, { check: event.check, passes: event.passes, at_ms, event: event.id });
        break;
    }
  }
  return {
    ...told,
    signs: [...signs.values()].sort((a, b) => a.stage - b.stage),
    notes: [...notes.values()],
    outcomes: [...words.values()],
    opened: [...opened.values()],
    losses,
    measures: [...measures.values()].sort((a, b) => (a.what < b.what ? -1 : 1)),
    looks: [...looks.values()].sort((a, b) => a.check - b.check),
  };
}
