import { describe, expect, it } from "vitest";
import type { HeatStep, PieceDocument, Plan } from "../src/api/types";
import { addPart, addWork, changePart, freshId, removePart, sayForm } from "../src/document/edit";
import { layLadder, rungsOf } from "../src/ladder/geometry";
import { wrap } from "../src/ladder/wrap";
import { saySpan } from "../src/log/words";
import { gradeWords } from "../src/parts/words";
import { outcomeFor } from "../src/run/words";
import { offsetOf, readTimer, sayClock, secondsUntil } from "../src/shell/clock";
import { faceOf } from "../src/shell/face";
import { nameOfKey } from "../src/shell/keys";
import { withJoin } from "./made";

describe("clocks", () => {
  it.each([
    [0, "0:00"],
    [24, "0:24"],
    [725, "12:05"],
    [3720, "1:02:00"],
    [-3, "0:00"],
  ])("says %d s as %s", (seconds, words) => expect(sayClock(seconds)).toBe(words));

  it("counts by the server's clock, however wrong this one is", () => {
    const here = Date.parse("2030-01-01T00:00:00Z");
    const offset = offsetOf("2026-11-24T10:00:00Z", here);
    expect(secondsUntil("2026-11-24T10:03:00Z", offset, here + 60_000)).toBe(120);
  });

  it.each([
    [0, "waiting", 120],
    [150, "ready", 90],
    [300, "over", 60],
  ])("reads a timer %d s in", (passed, state, seconds) => {
    const here = Date.parse("2026-11-24T10:00:00Z");
    const timer = readTimer("2026-11-24T10:02:00Z", "2026-11-24T10:04:00Z", 0, here + passed * 1000);
    expect(timer).toEqual({ state, seconds });
  });
});

describe("keys and faces", () => {
  const press = (key: string, held: Partial<KeyboardEvent> = {}) =>
    nameOfKey({ key, ctrlKey: false, metaKey: false, shiftKey: false, ...held });
  it("names keys as the tables write them", () => {
    expect([
      press(" "),
      press("B"),
      press("z", { ctrlKey: true }),
      press("Z", { metaKey: true, shiftKey: true }),
    ]).toEqual(["space", "b", "ctrl+z", "ctrl+shift+z"]);
  });
  it("turns Dim at the torch unless a face is pinned", () => {
    expect([faceOf("auto", true), faceOf("auto", false), faceOf("day", true), faceOf("dim", false)]).toEqual([
      "dim",
      "day",
      "day",
      "dim",
    ]);
  });
});

const empty = {
  format: "eskel-piece/1",
  name: "x",
  parts: [],
  joins: [],
  work: [],
  metals: [],
  rehearsals: [],
} as unknown as PieceDocument;

describe("edits", () => {
  it("gives ids that are not taken", () => {
    expect(freshId("Upper Dome!", [])).toBe("upper-dome");
    expect(freshId("wire", ["wire", "wire-2"])).toBe("wire-3");
    expect(freshId("…", [])).toBe("x");
  });

  it("adds parts, a join between the last two, and takes a part out with its joins", () => {
    let now = addPart(addPart(empty, "sheet").document, "wire").document;
    now = withJoin(now);
    now = addWork(now, "bend", "sheet").document;
    expect(now.joins[0]?.between).toEqual(["sheet", "wire"]);
    const without = removePart(now, "sheet");
    expect([without.parts.length, without.joins.length, without.work[0]?.parts]).toEqual([1, 0, []]);
    expect(empty.parts).toEqual([]);
  });

  it("takes orders on a join out with the join", () => {
    let now = addPart(addPart(addPart(empty, "sheet").document, "wire").document, "ball").document;
    now = withJoin(now);
    const first = now.joins[0]?.id ?? "";
    now = withJoin(now);
    now = {
      ...now,
      joins: now.joins.map((join, n) =>
        n === 1 ? { ...join, between: ["sheet", "sheet"], after: [first] } : join,
      ),
    };
    expect(removePart(now, "ball").joins.map((join) => join.after)).toEqual([[]]);
  });

  it("puts new work on the part that is chosen, and on none else", () => {
    const two = addPart(addPart(empty, "sheet").document, "wire").document;
    expect(addWork(two, "bend", "wire").document.work[0]?.parts).toEqual(["wire"]);
    expect(addWork(two, "bend").document.work[0]?.parts).toEqual([]);
    expect(addWork(addPart(empty, "wire").document, "bend").document.work[0]?.parts).toEqual(["wire"]);
  });

  it("says a form with its sizes", () => {
    const part = addPart(empty, "tube").document;
    const form = changePart(part, "tube", {
      form: { kind: "tube", outer_mm: 3.175, wall_mm: 0.4, length_mm: 8, sealed_ends: 0 },
    });
    expect(form.parts[0] && sayForm(form.parts[0].form)).toBe("tube 3.175, wall 0.4, 8 long");
  });
});

const heat = (heat_no: number, working_c: number, join: string, states: HeatStep["states"] = {}): HeatStep =>
  ({
    kind: "heat",
    n: heat_no * 2,
    heat_no,
    working_c,
    melts_c: 802,
    melts_by: "plate",
    states,
    parts: ["plate"],
    purpose: "solder",
    joins: [{ join, title: join, grade: "hard" }],
  }) as unknown as HeatStep;
const plan = {
  steps: [heat(1, 798, "a"), heat(2, 748, "b", { a: "soft" }), heat(3, 798, "c")],
  bands: [
    { join: "a", title: "a", heat_no: 1, solidus_c: 741, reflow_c: 798 },
    { join: "b", title: "b", heat_no: 2, solidus_c: 691, reflow_c: 748 },
    { join: "c", title: "c", heat_no: 3, solidus_c: 741, reflow_c: 798 },
  ],
} as unknown as Plan;
const frame = { width: 900, height: 560, left: 50, right: 150, top: 40, bottom: 100 };

describe("the heat ladder", () => {
  const shape = layLadder(plan, frame);
  it("stands columns from left to right, the hotter the higher", () => {
    const [first, second, third] = shape.columns;
    expect(first && second && third && first.x < second.x && second.x < third.x).toBe(true);
    expect(first && second && first.top < second.top).toBe(true);
    expect(first?.top).toBe(third?.top);
  });
  it("hatches the part of a column in which an earlier join is soft, from its solidus to the top", () => {
    const soft = shape.columns[1]?.softness[0];
    expect(soft?.joins).toEqual(["a"]);
    expect(soft?.from).toBeCloseTo(Math.max(shape.y(741), shape.y(748) + 10));
    expect(soft?.to).toBeCloseTo(shape.y(748));
  });
  it("ends a join's line where its body is not in the fire", () => {
    expect(shape.bands[0]?.runs.map((run) => run.present)).toEqual([true, false]);
  });
  it("draws one ceiling over columns that share it", () => {
    expect(shape.ceilings).toHaveLength(1);
    expect(shape.ceilings[0]?.y).toBeCloseTo(shape.y(802));
  });
  it("keeps labels of equal height apart", () => {
    const heights = shape.bands.map((band) => band.labelY).sort((a, b) => a - b);
    expect(heights.every((height, n) => n === 0 || height - (heights[n - 1] ?? 0) >= 17)).toBe(true);
  });
  it("tells grades by rungs and words", () => {
    expect(["hard", "medium", "easy", "extra-easy"].map(rungsOf)).toEqual([1, 2, 3, 4]);
    expect(gradeWords("extra-easy")).toBe("extra easy");
  });
  it("breaks names into at most three lines", () => {
    expect(wrap("Stays to base and more of them here", 9)).toHaveLength(3);
    expect(wrap("Rim", 9)).toEqual(["Rim"]);
  });
});

describe("words of a run", () => {
  it("finds the outcome of a key", () => {
    const words = [
      { outcome: "flowed", key: "space", words: "Flowed", sound: true },
      { outcome: "short", key: "2", words: "Short", sound: false },
    ] as const;
    expect(outcomeFor([...words], "2").outcome).toBe("short");
  });
  it("says how long a run took", () => {
    expect(saySpan("2026-11-24T10:00:00Z", "2026-11-24T11:05:30Z")).toBe("1 h 05 min");
    expect(saySpan("2026-11-24T10:00:00Z", null)).toBe("still going");
    expect(saySpan("2026-11-24T10:00:00Z", "2026-11-24T10:00:41Z")).toBe("41 s");
  });
});
