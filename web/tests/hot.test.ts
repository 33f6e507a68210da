import { describe, expect, it } from "vitest";
import type { RunSheet } from "../src/api/types";
import type { RunState, Turn } from "../src/happened/events";
import { blockUntilMs } from "../src/happened/hot";

const sheetOf = (...steps: object[]) => ({ steps, faces: [] }) as unknown as RunSheet;
const HEAT = { kind: "heat" };
const cool = (block_minutes: number) => ({ kind: "cool", block_minutes });
const left = (step: number, left_ms: number | null, more: Partial<Turn> = {}) =>
  ({ step, skipped: false, stays: [{ entered_ms: 0, left_ms, back: false }], ...more }) as unknown as Turn;
const stateOf = (...turns: Turn[]) => ({ turns, began_ms: 5_000 }) as unknown as RunState;

describe("what a heat lay on", () => {
  const sheet = sheetOf(HEAT, cool(6), HEAT, cool(10));
  it.each([
    ["nothing before a heat is over", [left(1, null)], null],
    ["hot from the end of the last heat", [left(1, 60_000), left(2, null)], 60_000 + 6 * 60_000],
    ["hot from the later one", [left(1, 60_000), left(2, 70_000), left(3, 90_000)], 90_000 + 10 * 60_000],
    ["hot from another try", [left(1, 60_000), left(1, 95_000)], 95_000 + 6 * 60_000],
    ["cold after a heat that was skipped", [left(1, 60_000, { skipped: true })], null],
  ])("is %s", (_, turns, until) => {
    expect(blockUntilMs(sheet, stateOf(...turns))).toBe(until);
  });

  it("is still hot where a run goes on from another that had just heated it", () => {
    expect(blockUntilMs(sheetOf(cool(6), HEAT), stateOf(left(1, null)))).toBe(5_000 + 6 * 60_000);
  });

  it("is no block where it is a mesh", () => {
    expect(blockUntilMs(sheetOf(HEAT, cool(0)), stateOf(left(1, 60_000)))).toBe(null);
  });
});
