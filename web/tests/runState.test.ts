import { describe, expect, it } from "vitest";
import cases from "../../tests/shared/runs.json";
import type { Face, RunEvent, RunState } from "../src/happened/events";
import { inOrder, runState } from "../src/happened/state";

type Case = { name: string; faces: Face[]; began_ms: number; events: RunEvent[]; state: RunState };
const CASES = cases as unknown as Case[];

describe("a run looks as the core has it by its events", () => {
  it.each(CASES.map((one) => [one.name, one] as const))("%s", (_, one) => {
    expect(runState(one.faces, one.began_ms, one.events)).toEqual(one.state);
  });

  it.each(CASES.map((one) => [one.name, one] as const))("in any order, and twice: %s", (_, one) => {
    const mixed = [...one.events.toReversed(), ...one.events];
    expect(runState(one.faces, one.began_ms, mixed)).toEqual(one.state);
  });

  it("has cases in which events are set aside for every reason that a screen can tell", () => {
    const told = new Set(CASES.flatMap((one) => one.state.aside.map((aside) => aside.why)));
    expect([...told].sort()).toEqual(
      ["beyond", "elsewhere", "first", "not-there", "open", "over", "unconfirmed", "unlit"].sort(),
    );
    expect(CASES.some((one) => one.state.aside.some((aside) => aside.other))).toBe(true);
    expect(CASES.some((one) => one.state.turns.some((turn) => turn.again > 1))).toBe(true);
  });

  it("tells a run of which twenty thousand notes were written and taken back, one event at the cost of one", () => {
    const at = (n: number) => ({ id: `t-${String(n)}`, device: "tablet-1", seq: n, at_ms: n });
    const noted: RunEvent[] = Array.from({ length: 20_000 }, (_, n) =>
      n % 4 === 3
        ? { ...at(n + 1), kind: "undo", of: `t-${String(n)}` }
        : { ...at(n + 1), kind: "note", turn: "1", text: "slow" },
    );
    expect(runState(CASES[0]?.faces ?? [], 0, noted).turns[0]?.notes).toHaveLength(10_000);
  });

  it("keeps the order of a device whose clock was put back", () => {
    const [first, second] = (CASES[0]?.events ?? []).map((event, n) => ({ ...event, at_ms: 9000 - n }));
    if (!first || !second) throw new Error("the first case has two events");
    expect(inOrder([second, first]).map(({ event, atMs }) => [event.seq, atMs])).toEqual([
      [1, 9000],
      [2, 9000],
    ]);
  });
});
