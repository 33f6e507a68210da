import { describe, expect, test } from "vitest";
import type { PieceDocument, Plan } from "../src/api/types";
import {
  backToBest,
  heatsOf,
  movedJoins,
  moveJoin,
  pinJoin,
  shareHeat,
  splitHeat,
  stepGrade,
} from "../src/document/moves";

const join = (id: string) => ({ id, by_hand: null });
const document = { joins: ["a", "b", "c", "d"].map(join) } as unknown as PieceDocument;
const heat = (heat_no: number, ...joins: string[]) => ({
  kind: "heat",
  heat_no,
  joins: joins.map((id) => ({ join: id, grade: heat_no === 1 ? "hard" : "easy" })),
});
const plan = { steps: [heat(1, "a", "b"), heat(2, "c"), heat(3, "d")] } as unknown as Plan;
const by = (made: PieceDocument | null, id: string) => made?.joins.find((each) => each.id === id)?.by_hand;

describe("a join dropped", () => {
  test("into another heat shares it with the first there", () => {
    expect(by(moveJoin(document, plan, "b", { heat: 2 }), "b")).toEqual({
      grade: null,
      shares: ["c"],
      apart: [],
      after: [],
    });
  });
  test("into its own heat changes nothing", () => {
    expect(moveJoin(document, plan, "b", { heat: 1 })).toBeNull();
    expect(moveJoin(document, plan, "c", { after: 1 })).toBeNull();
    expect(moveJoin(document, plan, "c", { after: 2 })).toBeNull();
  });
  test("between two heats waits for the one, and the other waits for it", () => {
    const made = moveJoin(document, plan, "a", { after: 2 });
    expect(by(made, "a")).toMatchObject({ apart: ["b"], after: ["c"], shares: [] });
    expect(by(made, "d")?.after).toEqual(["a"]);
    expect(by(made, "b")).toBeNull();
  });
  test("elsewhere again forgets who waited for it", () => {
    const once = moveJoin(document, plan, "a", { after: 2 }) as PieceDocument;
    const twice = moveJoin(once, plan, "a", { heat: 3 });
    expect(by(twice, "d")).toBeNull();
    expect(by(twice, "a")).toMatchObject({ shares: ["d"], apart: [], after: [] });
  });
  test("before the first heat waits for nothing", () => {
    const made = moveJoin(document, plan, "d", { after: 0 });
    expect(by(made, "d")).toBeNull();
    expect(by(made, "a")?.after).toEqual(["d"]);
    expect(by(made, "b")?.after).toEqual(["d"]);
  });
});

describe("a grade is stepped by hand, not past the last", () => {
  test.each([
    ["hard", 1, "medium"],
    ["medium", -1, "hard"],
    ["easy", 1, "extra-easy"],
    ["extra-easy", 1, null],
    ["hard", -1, null],
    ["it", 1, null],
  ] as const)("from %s by %d to %s", (from, step, to) => {
    const made = stepGrade(document, ["a", "b"], from, step);
    expect(by(made, "a")?.grade ?? null).toBe(to);
    expect(by(made, "b")?.grade ?? null).toBe(to);
    expect(by(made, "c") ?? null).toBeNull();
  });
});

test("heats are shared whole, and split whole", () => {
  const [first, , third] = heatsOf(plan);
  if (!first || !third) throw new Error("three heats");
  const shared = shareHeat(document, plan, first, 2);
  expect([by(shared, "a")?.shares, by(shared, "b")?.shares]).toEqual([["c"], ["c"]]);
  const split = splitHeat(document, first);
  expect([by(split, "a")?.apart, by(split, "b")]).toEqual([["b"], null]);
  expect(splitHeat(document, third)).toBeNull();
});

test("a pin keeps solder and company, and a second one lets go", () => {
  const pinned = pinJoin(document, plan, "a") as PieceDocument;
  expect(by(pinned, "a")).toEqual({ grade: "hard", shares: ["b"], apart: [], after: [] });
  expect(by(pinJoin(pinned, plan, "a"), "a")).toBeNull();
});

test("back to best takes every move back and nothing else", () => {
  const moved = moveJoin(document, plan, "a", { after: 2 }) as PieceDocument;
  expect(movedJoins(moved)).toEqual(["a", "d"]);
  expect(backToBest(moved)).toEqual(document);
});
