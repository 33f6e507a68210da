// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import cases from "../../tests/shared/today.json";
import type { RunSheet, RunView } from "../src/api/types";
import type { RunEvent } from "../src/happened/events";
import { Following } from "../src/happened/follow";
import * as keep from "../src/happened/keep";
import { forgetRun, keepPressed, keepSheet, keptDevice, keptRun, runsUnsent } from "../src/happened/keep";
import { runState } from "../src/happened/state";
import { exchange, tellLeft } from "../src/happened/tell";
import { toldAnew } from "../src/happened/today";
import { viewOf } from "../src/happened/view";
import { elsewhere, newDevice, runAt, said, serveRun, type Where } from "./theRun";
import { type Asked, askedFor, Refused, recorded } from "./wire";

const followed: Following[] = [];
const follow = (onTold = () => {}) => {
  const following = new Following(1, onTold);
  followed.push(following);
  return following;
};
const until = (true_: () => unknown) => vi.waitFor(() => expect(true_()).toBeTruthy(), { timeout: 5_000 });
const position = (following: Following) => following.seen.here?.view.position;
const next = (turn: string) => ({ kind: "next", turn, confirmed: true }) as const;

beforeEach(newDevice);
afterEach(() => {
  for (const one of followed.splice(0)) one.close();
});

/** Times as they are told, whatever digits they are told with. */
function timed(view: object): unknown {
  return JSON.parse(JSON.stringify(view), (_, value: unknown) =>
    typeof value === "string" && /^\d{4}-\d\d-\d\dT/.test(value) ? Math.round(Date.parse(value)) : value,
  );
}

describe("a run told on the device", () => {
  it.each(["prepare", "work", "heat", "heat, said"] satisfies Where[])(
    "is as the server tells it: %s",
    (where) => {
      const sheet = recorded<RunSheet>("GET /api/runs/{key}/sheet");
      const { events } = recorded<{ events: RunEvent[] }>(`GET /api/runs/{key}/events at ${where}`);
      const told = recorded<RunView>(`GET /api/runs/{key} at ${where}`);
      const view = viewOf(sheet, runState(sheet.faces, sheet.began_ms, events), Date.parse(told.now));
      expect(timed(view)).toEqual(timed(told));
    },
  );

  it.each(cases.map((one) => [one.words ?? "nothing", one] as const))(
    "says of today as the core does: %s",
    (_, one) => {
      const pressed = new Map(Object.entries(one.pressed_s).map(([n, s]) => [Number(n), s]));
      const told = toldAnew(one.stages_s, pressed, "runs");
      expect(told && [told.longer, told.leftS, told.words]).toEqual(
        one.words === null ? null : [one.longer, one.left_s, one.words],
      );
    },
  );
});

describe("what is pressed", () => {
  it("is kept first, counts at once, and goes to the server in its order", async () => {
    const { pressed } = serveRun(runAt("prepare"));
    const told = vi.fn();
    const following = follow(told);
    await until(() => position(following) === 1);
    await following.press(next("1"));
    expect(position(following)).toBe(2);
    await following.press(next("2"));
    await until(() => pressed.length === 2 && following.seen.here?.unsent === 0);
    expect(said(pressed)).toEqual([next("1"), next("2")]);
    expect(pressed.map(({ seq }) => seq)).toEqual([1, 2]);
    expect(told).toHaveBeenCalled();
    expect((await keptRun(1))?.events.map(({ sent }) => sent)).toEqual(["sent", "sent"]);
  });

  it("while the server is away counts all the same, and is sent when it is back, once", async () => {
    let away = false;
    const server = serveRun(runAt("prepare"));
    const { pressed } = serveRun(runAt("prepare"), {
      "POST /api/runs/1/events": ({ body }: Asked) => {
        const { events } = body as { events: RunEvent[] };
        for (const event of events) server.take(event);
        // Taken, and the answer lost on its way: sent again, it must not count twice.
        if (away) return new Refused("database-away", 503);
        return { events: server.taken, taken: server.taken.length, now_ms: Date.now() };
      },
    });
    const following = follow();
    await until(() => position(following) === 1);
    away = true;
    for (const turn of ["1", "2", "3"]) await following.press(next(turn));
    expect(position(following)).toBe(4);
    await until(() => following.seen.here?.away);
    expect(following.seen.here?.unsent).toBe(3);
    away = false;
    await until(() => following.seen.here?.unsent === 0);
    expect(following.seen.here?.away).toBe(false);
    expect(said(server.taken)).toEqual([next("1"), next("2"), next("3")]);
    expect(pressed).toEqual([]);
  });

  it("is there when the page is opened again without a server", async () => {
    serveRun(runAt("prepare"));
    const before = follow();
    await until(() => position(before) === 1);
    const away = () => new Refused("unreachable", 503);
    const still = {
      "POST /api/runs/1/events": away,
      "GET /api/runs/1/sheet": away,
      "GET /api/runs/1/events": away,
    };
    serveRun(runAt("prepare"), still);
    await before.press(next("1"), { kind: "note", turn: "2", text: "kept" });
    before.close();
    const after = follow();
    await until(() => position(after) === 2);
    expect(after.seen.here?.turn.notes.map(({ text }) => text)).toEqual(["kept"]);
    expect(after.seen.here?.unsent).toBe(2);
    await until(() => after.seen.here?.away);
    const { pressed } = serveRun(runAt("prepare"));
    await until(() => pressed.length === 2);
  });

  it("and was sent before it is known here to be kept, is sent", async () => {
    const { pressed } = serveRun(runAt("prepare"));
    const following = follow();
    await until(() => position(following) === 1);
    const kept = keep.keepPressed;
    vi.spyOn(keep, "keepPressed").mockImplementationOnce(async (...what) => {
      const event = await kept(...what);
      await tellLeft();
      await until(() => position(following) === 2);
      return event;
    });
    await following.press(next("1"));
    expect(said(pressed)).toEqual([next("1")]);
    expect(following.seen.here?.unsent).toBe(0);
  });

  it("in a run that is not open is sent by whoever opens Eskel next", async () => {
    const run = runAt("prepare");
    const { pressed } = serveRun(run);
    await keepSheet(run.sheet);
    await keepPressed(1, next("1"), { atMs: Date.now(), aheadMs: 0 });
    expect(await runsUnsent()).toEqual([1]);
    await forgetRun(1);
    expect(await keptRun(1)).not.toBeNull();
    await tellLeft();
    expect(said(pressed)).toEqual([next("1")]);
    await forgetRun(1);
    expect(await keptRun(1)).toBeNull();
  });

  it.each([
    ["busy", 503],
    ["took-too-long", 503],
    ["workroom", 503],
    ["no-token", 403],
  ] as const)("and not taken for now (%s) is kept, and sent again", async (code, status) => {
    const server = serveRun(runAt("prepare"));
    let refusals = 0;
    serveRun(runAt("prepare"), {
      "POST /api/runs/1/events": ({ body }: Asked) => {
        if (refusals < 2) {
          refusals += 1;
          return new Refused(code, status);
        }
        for (const event of (body as { events: RunEvent[] }).events) server.take(event);
        return { events: server.taken, taken: server.taken.length, now_ms: Date.now() };
      },
    });
    await keepSheet(runAt("prepare").sheet);
    await keepPressed(1, next("1"), { atMs: Date.now(), aheadMs: 0 });
    await tellLeft();
    expect(refusals).toBe(2);
    expect(said(server.taken)).toEqual([next("1")]);
    expect((await keptRun(1))?.events.map(({ sent }) => sent)).toEqual(["sent"]);
  });

  it("and refused holds nothing else up, and says why", async () => {
    const server = serveRun(runAt("prepare"));
    serveRun(runAt("prepare"), {
      "POST /api/runs/1/events": ({ body }: Asked) => {
        const { events } = body as { events: RunEvent[] };
        if (events.some((event) => event.kind === "note"))
          return new Refused("wrong", 422, "text", "too long");
        for (const event of events) server.take(event);
        return { events: server.taken, taken: server.taken.length, now_ms: Date.now() };
      },
    });
    const following = follow();
    await until(() => position(following) === 1);
    await following.press(next("1"), { kind: "note", turn: "2", text: "x" }, next("2"));
    await until(() => following.seen.here?.fault);
    await until(() => following.seen.here?.unsent === 0);
    expect(said(server.taken)).toEqual([next("1"), next("2")]);
    expect(following.seen.here?.turn.notes).toEqual([]);
    expect(position(following)).toBe(3);
    const asked = askedFor("POST /api/runs/1/events").length;
    await following.press({ kind: "lit", turn: "3" });
    await until(() => askedFor("POST /api/runs/1/events").length === asked + 1);
  });
});

describe("the server is not asked without a pause", () => {
  const asked = () => askedFor("GET /api/runs/1/events").length + askedFor("POST /api/runs/1/events").length;

  it.each([
    ["was sent by another page that told nobody", async () => void (await exchange(1, 0))],
    ["is kept here no more, as where a user clears what sites keep", newDevice],
  ])("where what is unsent %s", async (_, behindItsBack) => {
    let away = false;
    const server = serveRun(runAt("prepare"));
    const newer = (after: number) => {
      if (away) return new Refused("unreachable", 503);
      return { events: server.taken.slice(after), taken: server.taken.length, now_ms: Date.now() };
    };
    serveRun(runAt("prepare"), {
      "GET /api/runs/1/events": ({ path }: Asked) =>
        newer(Number(new URLSearchParams(path.split("?")[1]).get("after"))),
      "POST /api/runs/1/events": ({ body }: Asked) => {
        const { events, after } = body as { events: RunEvent[]; after: number };
        if (!away) for (const event of events) server.take(event);
        return newer(after);
      },
    });
    const following = follow();
    await until(() => position(following) === 1);
    away = true;
    await following.press(next("1"));
    await until(() => following.seen.here?.away);
    away = false;
    await behindItsBack();
    const before = asked();
    await until(() => following.seen.here?.unsent === 0);
    const [then, since] = [asked(), Date.now()];
    expect(then - before).toBeLessThan(5);
    await until(() => asked() > then + 1);
    expect(Date.now() - since).toBeGreaterThan(900);
    expect(said(server.taken)).toEqual([next("1")]);
    expect(position(following)).toBe(2);
  });
});

describe("two screens", () => {
  it("see what the other did, and come to the same", async () => {
    const run = runAt("prepare");
    const { take } = serveRun(run);
    const following = follow();
    await until(() => position(following) === 1);
    take(elsewhere(run, next("1")));
    await until(() => position(following) === 2);
    expect(following.seen.here?.overtaken).toBe(false);
  });

  it("see what came with the answer to what was left over, though they did not ask for it", async () => {
    const run = runAt("prepare");
    const { take } = serveRun(run);
    const following = follow();
    await until(() => position(following) === 1);
    // Kept, and not told to who follows: as what a page that died had written.
    await keepPressed(1, { kind: "note", turn: "1", text: "left over" }, { atMs: Date.now(), aheadMs: 0 });
    take(elsewhere(run, next("1")));
    await tellLeft();
    expect((await keptRun(1))?.events).toHaveLength(2);
    await until(() => position(following) === 2);
    expect(following.seen.here?.view.records[0]?.note).toBe("left over");
  });

  it("of one browser share what is kept, without a server", async () => {
    serveRun(runAt("prepare"));
    const [one, other] = [follow(), follow()];
    await until(() => position(one) === 1 && position(other) === 1);
    const away = () => new Refused("unreachable", 503);
    serveRun(runAt("prepare"), { "POST /api/runs/1/events": away, "GET /api/runs/1/events": away });
    await one.press(next("1"));
    await until(() => position(other) === 2);
    await other.press(next("2"));
    await until(() => position(one) === 3);
    const seqs = (await keptRun(1))?.events.map(({ event }) => event.seq);
    expect(seqs?.sort()).toEqual([1, 2]);
  });
});

describe("clocks", () => {
  it("that lag behind the server's are set right by what it answers", async () => {
    const run = runAt("prepare");
    const late = () => ({ events: [], taken: 0, now_ms: Date.now() + 90_000 });
    serveRun(run, { "GET /api/runs/1/events": late });
    const following = follow();
    await until(() => {
      const here = following.seen.here;
      return here && Math.abs(Date.parse(here.view.now) - here.asOf - 90_000) < 1_000;
    });
    await following.press(next("1"));
    const [kept] = (await keptRun(1))?.events ?? [];
    expect(Math.abs((kept?.event.ahead_ms ?? 0) - 90_000)).toBeLessThan(1_000);
    expect((await keptDevice()).aheadMs).toBe(kept?.event.ahead_ms);
  });
});

describe("another run of that number", () => {
  it("from a database that is gone gives way to the one that is there", async () => {
    const old = runAt("prepare");
    await keepSheet({ ...old.sheet, began_ms: 1_000, piece_name: "Of another shop" });
    await keepPressed(1, next("1"), { atMs: 2_000, aheadMs: 0 });
    serveRun(old);
    const following = follow();
    await until(() => following.seen.here?.view.piece_name === "Reed brooch");
    expect(position(following)).toBe(1);
    expect((await keptRun(1))?.events).toEqual([]);
  });
});
