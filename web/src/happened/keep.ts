/**
 * What this device keeps of runs, in the browser's own database: of each its sheet and all that happened, so that it goes on
 * with no server, and what was pressed here until the server has it. Every change is whole, and on the disk before it is told.
 */
import { type DBSchema, type IDBPDatabase, type IDBPObjectStore, openDB } from "idb";
import type { RunSheet } from "../api/types";
import type { RunEvent } from "./events";

/** Whether the server has an event, or has refused it. */
export type Sent = "unsent" | "sent" | "refused";
export type KeptEvent = { id: string; run: number; sent: Sent; event: RunEvent };
/** A run as it is kept: its sheet, its events, and how far is known what others told. */
export type KeptRun = { sheet: RunSheet; events: KeptEvent[]; taken: number };

type Device = { key: string; id: string; seq: number; aheadMs: number };
/** What is said by a press, before the device puts its own name and time to it. */
export type Saying = Omitted<RunEvent, "id" | "device" | "seq" | "at_ms" | "ahead_ms">;
type Omitted<T, K extends PropertyKey> = T extends unknown ? Omit<T, K> : never;

interface Shelf extends DBSchema {
  sheets: { key: number; value: { run: number; sheet: RunSheet; taken: number } };
  events: {
    key: string;
    value: KeptEvent;
    indexes: { run: number; "run-sent": [number, Sent]; sent: Sent };
  };
  device: { key: string; value: Device };
}

type Store = "sheets" | "events" | "device";
type Events = IDBPObjectStore<Shelf, Store[], "events", "readwrite">;
const STORES: Store[] = ["sheets", "events", "device"];
const STRICT = { durability: "strict" } as const;

/** A name that nobody else gives; also where the page is not served over a secure connection. */
const newId = (): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) => byte.toString(16).padStart(2, "0")).join(
    "",
  );

const newDevice = (): Device => ({ key: "device", id: newId(), seq: 0, aheadMs: 0 });

let opened: Promise<IDBPDatabase<Shelf>> | null = null;

function shelf(): Promise<IDBPDatabase<Shelf>> {
  opened ??= openDB<Shelf>("eskel-runs", 1, {
    upgrade(made) {
      made.createObjectStore("sheets", { keyPath: "run" });
      const events = made.createObjectStore("events", { keyPath: "id" });
      events.createIndex("run", "run");
      events.createIndex("run-sent", ["run", "sent"]);
      events.createIndex("sent", "sent");
      made.createObjectStore("device", { keyPath: "key" });
    },
    terminated() {
      opened = null;
    },
  }).catch((problem: unknown) => {
    opened = null;
    throw problem;
  });
  return opened;
}

/** What is kept of a run; null where it was never opened here. */
export async function keptRun(run: number): Promise<KeptRun | null> {
  const found = (await shelf()).transaction(STORES);
  const kept = await found.objectStore("sheets").get(run);
  const events = await found.objectStore("events").index("run").getAll(run);
  return kept ? { sheet: kept.sheet, taken: kept.taken, events } : null;
}

/** This device: the name it writes by, and how far the server's clock was ahead of its own, ms, when last they spoke. */
export async function keptDevice(): Promise<{ id: string; aheadMs: number }> {
  const change = (await shelf()).transaction("device", "readwrite");
  const device = (await change.store.get("device")) ?? newDevice();
  await change.store.put(device);
  await change.done;
  return device;
}

/** Keep the sheet of a run that is opened here. One of another run with that number, from a database that is gone, gives way with its events. */
export async function keepSheet(sheet: RunSheet): Promise<void> {
  const change = (await shelf()).transaction(STORES, "readwrite", STRICT);
  const sheets = change.objectStore("sheets");
  const before = await sheets.get(sheet.id);
  const same = before?.sheet.began_ms === sheet.began_ms;
  if (before && !same) await dropEvents(change.objectStore("events"), sheet.id);
  await sheets.put({ run: sheet.id, sheet, taken: same ? before.taken : 0 });
  await change.done;
}

/** Keep a run again as a page still has it: all of it but how far is known what others told, which the server tells anew. */
export async function keepAgain(sheet: RunSheet, events: KeptEvent[]): Promise<void> {
  const change = (await shelf()).transaction(STORES, "readwrite", STRICT);
  await change.objectStore("sheets").put({ run: sheet.id, sheet, taken: 0 });
  for (const one of events) await change.objectStore("events").put(one);
  await change.done;
}

/** Keep what was just pressed here, under the next number of this device; give it as it is kept. */
export async function keepPressed(
  run: number,
  says: Saying,
  clock: { atMs: number; aheadMs: number },
): Promise<KeptEvent> {
  const change = (await shelf()).transaction(STORES, "readwrite", STRICT);
  const devices = change.objectStore("device");
  const device = (await devices.get("device")) ?? newDevice();
  const seq = device.seq + 1;
  const written = { id: newId(), device: device.id, seq, at_ms: clock.atMs, ahead_ms: clock.aheadMs };
  const event = { ...written, ...says } as RunEvent;
  const kept: KeptEvent = { id: event.id, run, sent: "unsent", event };
  await devices.put({ ...device, seq });
  await change.objectStore("events").add(kept);
  await change.done;
  return kept;
}

/** Keep what the server has answered: those it has now, what others told, how far that goes, and how far its clock is ahead. */
export async function keepTold(
  run: number,
  told: { sent: string[]; events: RunEvent[]; taken: number; aheadMs: number },
): Promise<void> {
  const change = (await shelf()).transaction(STORES, "readwrite", STRICT);
  const events = change.objectStore("events");
  for (const event of told.events) await events.put({ id: event.id, run, sent: "sent", event });
  for (const id of told.sent) await mark(events, id, "sent");
  const sheets = change.objectStore("sheets");
  const kept = await sheets.get(run);
  if (kept && told.taken > kept.taken) await sheets.put({ ...kept, taken: told.taken });
  const devices = change.objectStore("device");
  const device = (await devices.get("device")) ?? newDevice();
  await devices.put({ ...device, aheadMs: told.aheadMs });
  await change.done;
}

/** Keep that the server refused an event: it is not sent again. */
export async function keepRefused(id: string): Promise<void> {
  const change = (await shelf()).transaction(STORES, "readwrite", STRICT);
  await mark(change.objectStore("events"), id, "refused");
  await change.done;
}

/** What of a run the server does not have yet, in the order in which it was pressed. */
export async function unsentOf(run: number): Promise<KeptEvent[]> {
  const found = await (await shelf()).getAllFromIndex("events", "run-sent", [run, "unsent"]);
  return found.sort((a, b) => a.event.seq - b.event.seq);
}

/** The runs of which the server does not have all. */
export async function runsUnsent(): Promise<number[]> {
  const found = await (await shelf()).getAllFromIndex("events", "sent", "unsent");
  return [...new Set(found.map(({ run }) => run))];
}

/** Forget a run of which the server has all. */
export async function forgetRun(run: number): Promise<void> {
  const change = (await shelf()).transaction(STORES, "readwrite", STRICT);
  const events = change.objectStore("events");
  if ((await events.index("run-sent").count([run, "unsent"])) === 0) {
    await dropEvents(events, run);
    await change.objectStore("sheets").delete(run);
  }
  await change.done;
}

async function mark(events: Events, id: string, sent: Sent): Promise<void> {
  const kept = await events.get(id);
  if (kept) await events.put({ ...kept, sent });
}

async function dropEvents(events: Events, run: number): Promise<void> {
  for (const id of await events.index("run").getAllKeys(run)) await events.delete(id);
}
