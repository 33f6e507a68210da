import { describe, expect, it } from "vitest";
import type { KeyInfo, Sketch } from "../src/api/types";
import { barFor, layOut } from "../src/sizes/sketch";
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
    const typed = beginKeys(KEYS, EXAMPLE);
    expect(typed.inside_mm).toBe("1, 1.2");
    expect(sendKeys(KEYS, typed)).toEqual({
      ...EXAMPLE,
      inside_mm: ["1", "1.2"],
      prongs: [{ reach_mm: "9", ball_mm: "1.5" }],
      sheet: { width_mm: "60" },
    });
  });

  it("leaves out what is empty, and a variant that was not chosen", () => {
    expect(sendKeys(KEYS, beginKeys(KEYS, {}))).toEqual({ closed: false, sheet: {} });
  });

  it("changes one value and leaves the rest and the original alone", () => {
    const typed = beginKeys(KEYS, EXAMPLE);
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
    [4, 20],
    [1, 100],
    [11, 5],
    [60, 1],
    [0.3, 200],
  ])("at %d px a mm its bar is %d mm", (scale, mm) => {
    const bar = barFor(scale);
    expect(bar.mm).toBe(mm);
    expect(bar.px).toBeLessThanOrEqual(110);
    expect(bar.px).toBeGreaterThanOrEqual(40);
  });

  it("draws a point without dividing by nothing", () => {
    const dot = { ...sketch, high: [0, 0] } as unknown as Sketch;
    expect(layOut(dot, 100, 100, 10).place([0, 0]).every(Number.isFinite)).toBe(true);
  });
});
