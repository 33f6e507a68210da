import { describe, expect, it } from "vitest";
import type { Part, PieceView, ProposalView } from "../src/api/types";
import { placeAfter, STILL, snapped } from "../src/drawing/drag";
import { apart, seenFrom, viewsOf } from "../src/drawing/views";
import { lettersOf, pointedBy, withProposal } from "../src/piece/pointing";
import { recorded } from "./wire";

const VIEW = recorded<PieceView>("GET /api/pieces/4");
const PROPOSED = recorded<ProposalView>("POST /api/proposal");

describe("letters on parts", () => {
  it("are one each while there are enough, else two", () => {
    expect(lettersOf(["plate", "post", "ball"])).toEqual({ plate: "a", post: "s", ball: "d" });
    const many = lettersOf(Array.from({ length: 40 }, (_, n) => `p${String(n)}`));
    expect(new Set(Object.values(many)).size).toBe(40);
    expect(Object.values(many).every((letter) => letter.length === 2)).toBe(true);
  });
  it("never use the key that begins pointing", () => {
    expect(Object.values(lettersOf(Array.from({ length: 25 }, (_, n) => String(n))))).not.toContain("j");
  });
  it.each([
    ["aa", "one"],
    ["a", null],
    ["x", undefined],
  ])("%s points at %s", (typed, part) => {
    expect(pointedBy({ one: "aa", two: "as" }, typed)).toBe(part);
  });
});

it("a proposal brings its join, and what changes with it at others", () => {
  const first = VIEW.document.joins[0];
  if (!first) throw new Error("the brooch has joins");
  const also = [{ join: first.id, key: "encloses", value: "walls", why: "" }];
  const made = withProposal(VIEW.document, { ...PROPOSED, also });
  expect(made.joins.at(-1)?.id).toBe(PROPOSED.join.id);
  expect(made.joins[0]).toEqual({ ...first, encloses: "walls" });
  expect(made.joins.slice(1, -1)).toEqual(VIEW.document.joins.slice(1));
});

describe("a part that is moved", () => {
  const part = VIEW.document.parts[0] as Part;
  const drawn = VIEW.picture.parts[0];
  if (!drawn) throw new Error("the brooch has parts");
  it("is put where it is drawn, and so far off", () => {
    const place = placeAfter({ ...part, place: null }, VIEW.picture, { ...STILL, x: 0.5, y: -1 });
    expect(place.x_mm).toBeCloseTo(drawn.x_mm + 0.5, 1);
    expect(place.y_mm).toBeCloseTo(drawn.y_mm - 1, 1);
    expect(place.stands).toBe("flat");
  });
  it.each([
    [170, 15, -175],
    [-170, -15, 175],
    [0, 15, 15],
  ])("at %s° is turned by %s° to %s°", (from, by, to) => {
    const put = { x_mm: 0, y_mm: 0, z_mm: 0, turn_deg: from, stands: "flat" as const };
    expect(placeAfter({ ...part, place: put }, VIEW.picture, { ...STILL, turn: by }).turn_deg).toBe(to);
  });
  it("snaps to the middle of another that is near, and goes free where none is", () => {
    const [one, other] = VIEW.picture.parts;
    if (!one || !other) throw new Error("the brooch has two parts");
    const off = other.x_mm - one.x_mm;
    const near = snapped(VIEW.picture, one.part, "above", [off + 0.2, 500], 0.1);
    expect(one.x_mm + near.x).toBeCloseTo(other.x_mm, 6);
    expect(snapped(VIEW.picture, one.part, "above", [500, 500], 0.1)).toMatchObject({ x: 500, y: 500, z: 0 });
  });
  it("goes up and not back when it is seen from the front", () => {
    expect(snapped(VIEW.picture, part.id, "front", [500, -200], 0.1)).toMatchObject({ x: 500, y: 0, z: 200 });
  });
});

describe("two views", () => {
  it("stand side by side at one scale, each within the sheet", () => {
    const sheet = seenFrom(VIEW.picture, ["front", "above"], [640, 400]);
    expect(sheet.seen.map((one) => one.view)).toEqual(["front", "above"]);
    expect(sheet.width).toBeGreaterThan(VIEW.picture.width_mm + VIEW.picture.front.width_mm);
    for (const one of sheet.seen)
      for (const [x, y] of one.parts.flatMap((part) => part.lines.flatMap((line) => line.points))) {
        expect((x ?? 0) + one.x).toBeLessThanOrEqual(sheet.width + 0.01);
        expect((y ?? 0) + one.y).toBeGreaterThanOrEqual(-0.01);
      }
  });
  it("draw what lies lower first", () => {
    const [above] = seenFrom(VIEW.picture, ["above"], [640, 400]).seen;
    const low = new Map(VIEW.picture.parts.map((part) => [part.node, part.low_mm]));
    const order = above?.parts.map((part) => low.get(part.node) ?? 0) ?? [];
    expect(order).toEqual([...order].sort((a, b) => a - b));
  });
  it("are one where all lies flat", () => {
    const flat = {
      ...VIEW.picture,
      parts: VIEW.picture.parts.map((part) => ({ ...part, low_mm: 0, high_mm: 1 })),
    };
    expect(viewsOf(flat)).toEqual(["above"]);
    expect(viewsOf(VIEW.picture)).toEqual(["front", "above"]);
  });
  it("set marks apart that would hide each other", () => {
    const mark = (number: number) => ({
      join: String(number),
      number,
      spots: [[0, 0]] as [number, number][],
    });
    const set = apart([mark(1), mark(2), mark(3), mark(4), mark(5)], 2);
    expect(set.map((one) => one.spots[0]?.[0])).toEqual([0, 2, -2, 4, 0]);
  });
});
