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

describe("joins that are made already", () => {
  it("come from the left edge, one line for each solder, and are in the fire where a heat has them", () => {
    const plan = planOf([1, 2]);
    const band = (join: string, reflow_c: number, heat_no: number) => ({
      join,
      title: join,
      heat_no,
      reflow_c,
      solidus_c: reflow_c - 40,
    });
    plan.bands = [band("foot", 773, 0), band("side", 773, 0), band("tip", 690, 0), band("end", 640, 2)];
    const [first, second] = plan.steps as unknown as { states: Record<string, string> }[];
    Object.assign(first?.states ?? {}, { foot: "firm" });
    Object.assign(second?.states ?? {}, { foot: "firm", tip: "soft" });
    const { bands, columns } = layLadder(plan, FRAME);
    expect(bands.map(({ joins, heat }) => [joins, heat])).toEqual([
      [["foot", "side"], 0],
      [["tip"], 0],
      [["end"], 2],
    ]);
    expect(bands[0]?.runs.map(({ present }) => present)).toEqual([true]);
    expect(bands[0]?.runs[0]?.x1).toBe(50);
    expect(bands[1]?.runs.map(({ x1, present }) => [x1, present])).toEqual([
      [50, true],
      [columns[0]?.x, false],
      [columns[1]?.x, true],
    ]);
  });
});
