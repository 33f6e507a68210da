import { describe, expect, it } from "vitest";
import { sayTools, splitSizes, withSizes, withTurn } from "../src/bench/tools";
import { sayForm } from "../src/document/edit";
import {
  bareDegrees,
  bareLength,
  METRIC,
  sayArea,
  sayDegrees,
  sayDifference,
  sayLength,
  sayMass,
  type Units,
} from "../src/parts/units";

const OTHER: Units = { units: "inch", gauge_shown: "no", temperature: "f", mass: "troy" };

describe("measures in the units of the house", () => {
  it.each([
    [sayLength(12.7, METRIC), "12.70 mm"],
    [sayLength(12.7, OTHER), "0.500 in"],
    [bareLength(12.7, METRIC), "12.7"],
    [bareLength(12.7, OTHER), "0.5"],
    [sayArea(645.16, METRIC), "645 mm²"],
    [sayArea(645.16, OTHER), "1.000 in²"],
    [sayMass(3.11034, METRIC), "3.11 g"],
    [sayMass(3.11034, OTHER), "2.00 dwt"],
    [sayMass(62.207, OTHER), "2.000 ozt"],
    [sayDegrees(798, METRIC), "798 °C"],
    [sayDegrees(798, OTHER), "1468 °F"],
    [bareDegrees(100, OTHER), "212"],
    [sayDifference(25, METRIC), "25 °C"],
    [sayDifference(25, OTHER), "45 °F"],
  ])("%s", (said, words) => expect(said).toBe(words));

  it("says a form in either unit", () => {
    const form = {
      kind: "strip",
      width_mm: 12.7,
      thickness_mm: 1.27,
      length_mm: 25.4,
      closed: false,
    } as const;
    expect(sayForm(form)).toBe("strip 12.7 × 1.27, 25.4 long");
    expect(sayForm(form, OTHER)).toBe("strip 0.5 × 0.05, 1 long");
  });
});

describe("tools in a line", () => {
  const tools = [
    { kind: "dowel", size_mm: 5 },
    { kind: "dowel", size_mm: 3 },
    { kind: "mill-groove", size_mm: 2, mm_per_turn: 0.75 },
    { kind: "blade", size: "4/0" },
  ] as const;

  it("are said by kind, the smallest first", () => {
    expect(sayTools(tools, "dowel")).toBe("3, 5");
    expect(sayTools(tools, "blade")).toBe("4/0");
    expect(sayTools(tools, "drill")).toBe("");
  });

  it("are taken apart as they were typed", () =>
    expect(splitSizes(" 3, 1/4 in;18 ga,, ")).toEqual(["3", "1/4 in", "18 ga"]));

  it("take the place of those of their kind alone, and grooves keep their turn", () => {
    const made = withSizes(tools, "mill-groove", [2.5, 3]);
    expect(made.filter((tool) => tool.kind === "mill-groove")).toEqual([
      { kind: "mill-groove", size_mm: 2.5, mm_per_turn: 0.75 },
      { kind: "mill-groove", size_mm: 3, mm_per_turn: 0.75 },
    ]);
    expect(sayTools(made, "dowel")).toBe("3, 5");
    expect(withSizes(tools, "blade", ["2/0"]).at(-1)).toEqual({ kind: "blade", size: "2/0" });
    expect(withTurn(tools, 1)[2]?.mm_per_turn).toBe(1);
  });
});
