import { describe, expect, it } from "vitest";
import { readCourse, readSection, sayCourse, saySection } from "../src/document/sections";
import { METRIC } from "../src/parts/units";

describe("a section said in a few words", () => {
  it.each([
    ["round 2", { kind: "round", diameter_mm: 2 }],
    ["2", { kind: "round", diameter_mm: 2 }],
    ["square 6", { kind: "square", side_mm: 6 }],
    ["flat 2 x 8", { kind: "rect", width_mm: 8, height_mm: 2 }],
    ["Half round 3 × 1.5", { kind: "half-round", width_mm: 3, height_mm: 1.5 }],
    ["round 18 ga", { kind: "round", diameter_mm: 1.024 }],
    ["square 2 × 3", null],
    ["flat 3", null],
    ["hexagon 3", null],
    ["", null],
  ])("%s", (typed, read) => {
    expect(readSection(typed, METRIC)).toEqual(read);
    if (read && !/ga/.test(typed))
      expect(readSection(saySection(read as never, METRIC), METRIC)).toEqual(read);
  });
});

describe("a course in plan", () => {
  it.each([
    [
      "0 0, 10 0, 10 5",
      [
        [0, 0],
        [10, 0],
        [10, 5],
      ],
    ],
    ["M0 0 L5 5", "M0 0 L5 5"],
    ["", null],
    ["0 0", undefined],
    ["0 0, ten 0", undefined],
  ])("%s", (typed, read) => {
    expect(readCourse(typed)).toEqual(read);
    if (read) expect(readCourse(sayCourse(read as never))).toEqual(read);
  });
});
