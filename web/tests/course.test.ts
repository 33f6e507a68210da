import { describe, expect, it } from "vitest";
import type { Part, Picture } from "../src/api/types";
import {
  alongMm,
  bentAlong,
  courseOf,
  type Spot,
  withAdded,
  withMoved,
  withOut,
} from "../src/drawing/course";

const L: Spot[] = [
  [0, 0],
  [10, 0],
  [10, 5],
];

/** A wire bent along an L, put at 20, 30 and turned by 90°, with the drawing of it as the server makes it. */
function bent(place: Part["place"] | null, turn: number): { part: Part; picture: Picture } {
  const form = {
    kind: "wire",
    profile: { kind: "round", diameter_mm: 1 },
    length_mm: 15,
    closed: false,
    path: L,
  };
  const part = { id: "hook", form, place } as unknown as Part;
  const [cos, sin] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
  const points = L.map(([x, y]) => {
    const [dx, dy] = [x - 5, y - 2.5];
    return [20 + dx * cos - dy * sin, 30 + dx * sin + dy * cos];
  });
  const drawn = {
    node: "hook",
    part: "hook",
    alike: 1,
    lines: [{ points, closed: false, width_mm: 1, faint: false }],
  };
  return { part, picture: { parts: [drawn] } as unknown as Picture };
}

const at = { x_mm: 20, y_mm: 30, z_mm: 0, turn_deg: 90, stands: "flat" } as Part["place"];

describe("the points of a bent wire", () => {
  it("are those that are drawn, and none of what is straight", () => {
    const { part, picture } = bent(at, 90);
    expect(courseOf(part, picture)).toHaveLength(3);
    expect(courseOf({ ...part, form: { ...part.form, path: null } } as Part, picture)).toBeNull();
    expect(courseOf({ ...part, form: { ...part.form, path: "M0 0 L9 0" } } as Part, picture)).toBeNull();
  });
  it("are as long as the line along them, once round where it is closed", () => {
    expect(alongMm(L, false)).toBe(15);
    expect(alongMm(L, true)).toBeCloseTo(15 + Math.hypot(10, 5), 9);
  });
  it("are put between two and taken out, down to two", () => {
    expect(withAdded(L, 0)[1]).toEqual([5, 0]);
    expect(withOut(L, 1)).toEqual([L[0], L[2]]);
    expect(withOut([L[0] as Spot, L[1] as Spot], 0)).toHaveLength(2);
  });
  it("move with the end that they are one with", () => {
    const ring: Spot[] = [...L, [0, 0]];
    const moved = withMoved(ring, 0, [1, 2]);
    expect(moved[0]).toEqual([1, 2]);
    expect(moved[3]).toEqual([1, 2]);
    expect(moved[1]).toEqual([10, 0]);
  });
});

describe("a part bent along points that were moved where they are drawn", () => {
  for (const turn of [0, 90, -35]) {
    it(`keeps the others where they are, turned by ${String(turn)}°`, () => {
      const { part, picture } = bent({ ...at, turn_deg: turn } as Part["place"], turn);
      const drawn = courseOf(part, picture) as readonly Spot[];
      const moved = withMoved(drawn, 2, [3, -4]);
      const change = bentAlong(part, picture, moved);
      const path = (change.form as { path: Spot[] }).path;
      expect(path[0]).toEqual([0, 0]);
      expect((change.form as { length_mm: number }).length_mm).toBeCloseTo(alongMm(moved, false), 1);
      // Drawn anew, as the server does: about the middle of its box, turned, and put where it lies.
      const middle = [0, 1].map((axis) => {
        const all = path.map((point) => point[axis] as number);
        return (Math.min(...all) + Math.max(...all)) / 2;
      });
      const [cos, sin] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
      const place = change.place as { x_mm: number; y_mm: number };
      for (const [n, [x, y]] of path.entries()) {
        const [dx, dy] = [x - (middle[0] as number), y - (middle[1] as number)];
        expect(place.x_mm + dx * cos - dy * sin).toBeCloseTo(moved[n]?.[0] as number, 1);
        expect(place.y_mm + dx * sin + dy * cos).toBeCloseTo(moved[n]?.[1] as number, 1);
      }
    });
  }
  it("is laid out anew where it was never put anywhere", () => {
    const { part, picture } = bent(null, 0);
    const drawn = courseOf(part, picture) as readonly Spot[];
    expect(bentAlong(part, picture, withMoved(drawn, 1, [0, 2])).place).toBeUndefined();
  });
});
