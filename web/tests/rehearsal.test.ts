import { describe, expect, test } from "vitest";
import type { GlowStep, Rehearsal } from "../src/api/types";
import { saySeconds } from "../src/parts/words";
import {
  eventsUntil,
  flameAt,
  glowAt,
  glowWord,
  momentAt,
  seamsAt,
  spreadLabels,
  stageAt,
  topOf,
  valueAt,
} from "../src/rehearsal/moments";

const times = [0, 1, 2, 5];

describe("a moment", () => {
  test.each([
    [-1, 0],
    [0, 0],
    [0.9, 0],
    [1, 1],
    [4.9, 2],
    [5, 3],
    [99, 3],
  ])("at %d s is number %d", (seconds, at) => expect(momentAt(times, seconds)).toBe(at));

  test("values go straight between moments and stay at the ends", () => {
    const values = [20, 120, 220, 520];
    expect(valueAt(times, values, 0.5)).toBe(70);
    expect(valueAt(times, values, 3.5)).toBe(370);
    expect(valueAt(times, values, 50)).toBe(520);
    expect(valueAt([], [], 1)).toBe(0);
  });
});

const stage = (likely: number, marks: [number, number, number][], reach_mm = 0) => ({
  seconds: { low: null, likely, high: null },
  marks,
  reach_mm,
});
const rehearsal = {
  programme: [
    stage(4, [[0, 10, 20]]),
    stage(6, [
      [4, 1, 1],
      [7, 5, 5],
    ]),
  ],
  events: [
    { seconds: 1, kind: "steam" },
    { seconds: 6, kind: "clear" },
  ],
} as unknown as Rehearsal;

describe("the flame", () => {
  test.each([
    [0, 0],
    [3.9, 0],
    [4, 1],
    [20, 1],
  ])("at %d s is in stage %d", (seconds, at) => expect(stageAt(rehearsal, seconds)).toBe(at));

  test("stands at its mark, and goes on to the next place", () => {
    expect(flameAt(rehearsal, 2)).toEqual([10, 20]);
    expect(flameAt(rehearsal, 5)).toEqual([1, 1]);
    expect(flameAt(rehearsal, 8)).toEqual([5, 5]);
  });

  test("wanders no farther than it reaches", () => {
    const wide = { ...rehearsal, programme: [stage(4, [[0, 0, 0]], 3)] } as unknown as Rehearsal;
    for (const seconds of [0, 0.3, 1.7]) {
      const [x, y] = flameAt(wide, seconds) ?? [0, 0];
      expect(Math.hypot(x, y)).toBeCloseTo(3);
    }
  });

  test("what has happened is told, the last thing first", () => {
    expect(eventsUntil(rehearsal, 6).map((event) => event.kind)).toEqual(["clear", "steam"]);
    expect(eventsUntil(rehearsal, 0.5)).toEqual([]);
  });
});

const glow: GlowStep[] = [
  { at_c: 600, rgb: [100, 50, 50], word: "no glow" },
  { at_c: 620, rgb: [120, 50, 40], word: "dull red" },
];

describe("a seam", () => {
  const of = (about: string, kind: string, seconds: number) => ({ about, kind, seconds });
  const seen = {
    joins: ["rim", "feet", "stays"],
    events: [
      of("rim", "steam", 1),
      of("feet", "steam", 2),
      of("rim", "clear", 4),
      of("feet", "soft", 5),
      of("rim", "reached", 6),
      of("feet", "reached", 8),
    ],
  } as unknown as Rehearsal;
  test.each([
    [0, "dry", "dry"],
    [2, "steaming", "steaming"],
    [4.5, "clear as glass", "steaming"],
    [7, "run", "steaming"],
    [8, "run", "run"],
  ])("at %d s is as far as the last sign that was told of it", (seconds, rim, feet) =>
    expect(seamsAt(seen, seconds).map((one) => one.state)).toEqual([rim, feet, "dry"]),
  );
});

describe("the glow", () => {
  test.each([
    [20, "rgb(100 50 50)"],
    [610, "rgb(110 50 45)"],
    [620, "rgb(120 50 40)"],
    [900, "rgb(120 50 40)"],
  ])("at %d °C is %s", (at, colour) => expect(glowAt(glow, at)).toBe(colour));
  test("has its word", () => {
    expect(glowWord(glow, 619)).toBe("no glow");
    expect(glowWord(glow, 621)).toBe("dull red");
    expect(glowWord([], 621)).toBe("no glow");
  });
});

describe("labels", () => {
  test.each([
    [
      [10, 11, 50],
      [10, 26, 50],
    ],
    [
      [95, 96],
      [84, 100],
    ],
    [[], []],
  ])("at %j stand at %j", (wanted, placed) => expect(spreadLabels(wanted, 16, 0, 100)).toEqual(placed));
  test("the scale has room for what flows, melts and was reached", () => {
    const line = { hottest_c: [20, 640], limit_c: 802, flow_c: 718 } as never;
    expect(topOf([line])).toBe(900);
    expect(topOf([])).toBe(500);
  });
});

test.each([
  [16.2, "16 s"],
  [119, "119 s"],
  [120, "2 min"],
  [200, "3 min 20 s"],
])("%d s is said as %s", (seconds, words) => expect(saySeconds(seconds)).toBe(words));
