import { describe, expect, it } from "vitest";
import type { KeyInfo, Sketch } from "../src/api/types";
import { barFor } from "../src/parts/scaleBar";
import { METRIC } from "../src/parts/units";
import { layOut } from "../src/sizes/sketch";
import { beginKeys, changeAt, findIn, sayPath, sendKeys } from "../src/sizes/typed";

const key = (name: string, more: Partial<KeyInfo> = {}): KeyInfo => ({
  key: name,
  label: name,
  kind: "quantity",
  quantity: "length",
  required: true,
  default: null,
  choices: [],
  keys: [],
  variants: [],
  ...more,
});

const KEYS = [
  key("size", { quantity: "ring-size" }),
  key("thin_mm", { required: false }),
  key("closed", { kind: "yes-no", default: false }),
  key("outline", {
    kind: "variants",
    variants: [
      { kind: "disc", keys: [key("diameter_mm")] },
      { kind: "polygon", keys: [key("points", { quantity: "points" })] },
    ],
  }),
  key("inside_mm", { quantity: "lengths" }),
  key("prongs", { kind: "list", keys: [key("reach_mm"), key("ball_mm")] }),
  key("sheet", { kind: "group", keys: [key("width_mm")] }),
];
const EXAMPLE = {
  size: "US 9",
  closed: true,
  outline: {
    kind: "polygon",
    points: [
      [0, 0],
      [30, 0],
      [30, 40],
    ],
  },
  inside_mm: [1, 1.2],
  prongs: [{ reach_mm: 9, ball_mm: 1.5 }],
  sheet: { width_mm: 60 },
};

describe("what is typed into a calculator", () => {
  it("begins with the example and is sent as it was given", () => {
    const typed = beginKeys(KEYS, EXAMPLE, METRIC);
    expect(typed.inside_mm).toBe("1, 1.2");
    expect(sendKeys(KEYS, typed)).toEqual({
      ...EXAMPLE,
      inside_mm: ["1", "1.2"],
      prongs: [{ reach_mm: "9", ball_mm: "1.5" }],
      sheet: { width_mm: "60" },
    });
  });

  it("stands in the units of the house: the same measures, as a hand would type them there", () => {
    const keys = [
      key("wire_mm", { quantity: "length" }),
      key("inside_mm", { quantity: "lengths" }),
      key("metal_g", { quantity: "mass" }),
      key("bath_c", { quantity: "temperature" }),
      key("count", { quantity: "number" }),
      key("spots", { quantity: "points" }),
    ];
    const example = {
      wire_mm: 0.8,
      inside_mm: [25.4, 12.7],
      metal_g: 15.5517,
      bath_c: 60,
      count: 3,
      spots: [[0, 30]],
    };
    expect(
      beginKeys(keys, example, { units: "inch", gauge_shown: "yes", temperature: "f", mass: "troy" }),
    ).toEqual({
      wire_mm: "0.0315",
      inside_mm: "1, 0.5",
      metal_g: "10",
      bath_c: "140",
      count: "3",
      spots: "0 30",
    });
    // What was typed is in the units of the house already.
    expect(beginKeys(keys, { wire_mm: "0.8" }, { ...METRIC, units: "inch" }).wire_mm).toBe("0.8");
  });

  it("leaves out what is empty, and a variant that was not chosen", () => {
    expect(sendKeys(KEYS, beginKeys(KEYS, {}, METRIC))).toEqual({ closed: false, sheet: {} });
  });

  it("changes one value and leaves the rest and the original alone", () => {
    const typed = beginKeys(KEYS, EXAMPLE, METRIC);
    const changed = changeAt(typed, ["prongs", 0, "ball_mm"], "16 ga");
    expect(changed.prongs).toEqual([{ reach_mm: "9", ball_mm: "16 ga" }]);
    expect(typed.prongs).toEqual([{ reach_mm: "9", ball_mm: "1.5" }]);
    expect(changed.size).toBe(typed.size);
  });

  it.each([
    [["size"], "size"],
    [["prongs", 0, "ball_mm"], "prongs[0].ball_mm"],
    [["start", "side_mm"], "start.side_mm"],
  ])("says the path %j as the server does", (path, words) => expect(sayPath(path)).toBe(words));

  it("finds calculators by every word asked for", () => {
    const list = [
      { name: "ball", title: "Ball from wire", about: "any two give the third", group: "Balls" },
      { name: "twist", title: "Twisted wire", about: "what twisting eats", group: "Wire" },
    ];
    expect(findIn(list, "wire ball").map((one) => one.name)).toEqual(["ball"]);
    expect(findIn(list, " WIRE ").length).toBe(2);
    expect(findIn(list, "cuff")).toEqual([]);
  });
});

describe("a drawing on screen", () => {
  const sketch = { lines: [], labels: [], low: [0, 0], high: [100, 20] } as unknown as Sketch;

  it("keeps one scale for both ways, centred, with y turned down", () => {
    const { scale, place } = layOut(sketch, 440, 240, 20);
    expect(scale).toBe(4);
    expect(place([0, 0])).toEqual([20, 160]);
    expect(place([100, 20])).toEqual([420, 80]);
  });

  it.each([
    [4, "mm", "20 mm"],
    [1, "mm", "100 mm"],
    [11, "mm", "5 mm"],
    [60, "mm", "1 mm"],
    [0.3, "mm", "200 mm"],
    // 100 pixels are 25 mm at 4 to the mm: half an inch and not a whole one
    [4, "inch", "0.5 in"],
    [3, "inch", "1 in"],
    [60, "inch", "0.05 in"],
  ] as const)("at %d px a mm its bar is, in a house of %s, %s", (scale, units, words) => {
    const bar = barFor(scale, { units });
    expect(bar.words).toBe(words);
    expect(bar.px).toBeLessThanOrEqual(110);
    expect(bar.px).toBeGreaterThanOrEqual(40);
    expect(bar.px / scale).toBeCloseTo(bar.mm, 1);
  });

  it("draws a point without dividing by nothing", () => {
    const dot = { ...sketch, high: [0, 0] } as unknown as Sketch;
    expect(layOut(dot, 100, 100, 10).place([0, 0]).every(Number.isFinite)).toBe(true);
  });
});
