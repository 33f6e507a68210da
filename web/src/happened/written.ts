/** What stands of all that was written of a turn: of each sign the first, of each join, measure and look the last. */
import type { JoinWord, Look, Measure, MeasuredWhat, Note, SignAt, Standing, TurnEvent } from "./events";

export const LIT = 0;
export type Timed = { atMs: number; event: TurnEvent };

/** The events that were written of one turn. What stands of them is told when it is looked at, once. */
export class Writing {
  private readonly events = new Map<string, Timed>();
  private readonly said = new Map<string, number>();
  private litTimes = 0;

  get lit(): boolean {
    return this.litTimes > 0;
  }

  saidOf(join: string): boolean {
    return (this.said.get(join) ?? 0) > 0;
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
    if (event.kind === "outcome") this.said.set(event.join, (this.said.get(event.join) ?? 0) + by);
  }
}

export const nothingWritten = (): Standing => written([]);

function written(events: Iterable<Timed>): Standing {
  const signs = new Map<number, SignAt>();
  const words = new Map<string, JoinWord>();
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
        words.delete(event.join);
        words.set(event.join, { join: event.join, outcome: event.outcome, at_ms, event: event.id });
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
    measures: [...measures.values()].sort((a, b) => (a.what < b.what ? -1 : 1)),
    looks: [...looks.values()].sort((a, b) => a.check - b.check),
  };
}
