/** A run on the wire as the server tells it: its sheet, and events of which it takes each once. */
import "fake-indexeddb/auto";
import { deleteDB, openDB } from "idb";
import type { RunSheet, RunView } from "../src/api/types";
import type { RunEvent } from "../src/happened/events";
import { type Asked, recorded, serve, type Told } from "./wire";

export type Where = "prepare" | "work" | "heat" | "heat, said";
export type Run = { sheet: RunSheet; events: RunEvent[] };

/** The demo's brooch where a run of it stands at a kind of step; the step at hand, and its face, as a test wants them. */
export function runAt(where: Where, step: object = {}, face: object = {}): Run {
  const sheet = recorded<RunSheet>("GET /api/runs/{key}/sheet");
  const { events } = recorded<{ events: RunEvent[] }>(`GET /api/runs/{key}/events at ${where}`);
  const n = recorded<RunView>(`GET /api/runs/{key} at ${where}`).position - 1;
  Object.assign(sheet.steps[n] ?? {}, step);
  Object.assign(sheet.faces[n] ?? {}, face);
  return { sheet, events };
}

/** Something that happened on another screen, so many ms after the last that is known. */
export function elsewhere(run: Run, says: object, afterMs = 1_000): RunEvent {
  const last = run.events.at(-1);
  const seq = run.events.filter(({ device }) => device === "other-screen").length + 1;
  const at_ms = (last?.at_ms ?? run.sheet.began_ms) + afterMs;
  return { id: `other-screen-${String(seq)}`, device: "other-screen", seq, at_ms, ...says } as RunEvent;
}

/** Serve a run; give what is pressed here as it comes in, and let another screen say something. */
export function serveRun(run: Run, own: Record<string, Told> = {}) {
  const taken = [...run.events];
  const pressed: RunEvent[] = [];
  const take = (event: RunEvent) => {
    if (!taken.some(({ id }) => id === event.id)) taken.push(event);
  };
  const newer = (after: number) => ({ events: taken.slice(after), taken: taken.length, now_ms: Date.now() });
  serve({
    "GET /api/runs/1/sheet": run.sheet,
    "GET /api/runs/1/events": ({ path }: Asked) =>
      newer(Number(new URLSearchParams(path.split("?")[1]).get("after"))),
    "POST /api/runs/1/events": ({ body }: Asked) => {
      const { events, after } = body as { events: RunEvent[]; after: number };
      for (const event of events) {
        if (!taken.some(({ id }) => id === event.id)) pressed.push(event);
        take(event);
      }
      return newer(after);
    },
    "POST /api/runs/1/offers": ({ body }: Asked) => offered((body as { turn: string }).turn),
    ...own,
  });
  return { pressed, taken, take };
}

/** Offers as the server tells them at a turn: each way with its title, and the steps of the plan that it puts in. */
export const offered = (turn: string, offers: object[] = []) => ({
  turn,
  never: [],
  offers: offers.map((one) => ({ why: "", joins: [], steps: [], texts: [], ...one })),
  steps: [],
  faces: [],
});

/** What was pressed, without the device's own name, number and clock. */
export const said = (pressed: RunEvent[]): object[] =>
  pressed.map(({ id: _id, device: _device, seq: _seq, at_ms: _at, ahead_ms: _ahead, ...says }) => says);

/** Let this device keep nothing, as a new one. */
export async function newDevice(): Promise<void> {
  const kept = await openDB("eskel-runs");
  for (const store of kept.objectStoreNames) await kept.clear(store);
  const empty = kept.objectStoreNames.length === 0;
  kept.close();
  if (empty) await deleteDB("eskel-runs");
}
