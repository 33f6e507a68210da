import { describe, expect, it } from "vitest";
import type { Plan } from "../src/api/types";
import { layLadder } from "../src/ladder/geometry";

const FRAME = { width: 900, height: 400, left: 50, right: 150, top: 40, bottom: 100 };

/** A plan of heats, each told by its round. */
function planOf(rounds: number[]): Plan {
  const steps = rounds.map((round, n) => ({
    kind: "heat",
    heat_no: n + 1,
    round,
    working_c: 748,
    joins: [],
    states: {},
    parts: [],
    melts_c: null,
    melts_by: null,
  }));
  return { steps, bands: [] } as unknown as Plan;
}

describe("heats of a round on the ladder", () => {
  it("stand closer than those of two rounds, on one foot", () => {
    const { columns, rounds } = layLadder(planOf([1, 1, 2, 3, 3, 3]), FRAME);
    expect(rounds.map((round) => round.no)).toEqual([1, 3]);
    expect(rounds[0]?.x1).toBe(columns[0]?.x);
    expect(rounds[1]?.x2).toBe((columns[5]?.x ?? 0) + (columns[5]?.width ?? 0));
    const rooms = columns.map((column) => column.room);
    expect(rooms[0]).toBeLessThan(rooms[1] ?? 0);
    expect(rooms.reduce((sum, room) => sum + room, 0)).toBeCloseTo(900 - 50 - 150);
  });

  it("have no foot where each is a round of its own, or where a kept plan tells none", () => {
    expect(layLadder(planOf([1, 2, 3]), FRAME).rounds).toEqual([]);
    expect(layLadder(planOf([0, 0]), FRAME).rounds).toEqual([]);
  });
});
