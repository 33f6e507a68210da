// @vitest-environment happy-dom
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { RunView } from "../src/api/types";
import { begunAt, FlameAt, type Side } from "../src/drawing/FlameAt";
import type { Seen } from "../src/drawing/views";
import type { RunHere } from "../src/happened/follow";
import { flameNow } from "../src/run/AimedPicture";
import { awaited, FlameClock, heatAt, SignKey, StageList } from "../src/run/Stages";

afterEach(cleanup);

type Flame = NonNullable<RunView["flame"]>;
type Stages = Parameters<typeof awaited>[1];

const STAGES: Stages = [
  {
    text: "Dry the flux.",
    sign: "crust",
    see: "the flux is a white crust",
    if_late: "Nearer.",
    low_s: 12,
    likely_s: 15,
    high_s: 20,
  },
  {
    text: "Full flame on the plate.",
    sign: "runs",
    see: "the line has run",
    if_late: "",
    low_s: 10,
    likely_s: 20,
    high_s: 30,
  },
];
const HEAT = { records: [], step: { kind: "heat", stages: STAGES } } as unknown as RunView;
const at = (seconds: number) => new Date(Date.UTC(2026, 10, 26, 8, 0, seconds)).toISOString();
const flame = (next: number | null, ...pressed: [number, number][]): Flame => ({
  signs: pressed.map(([stage, seconds]) => ({ stage, at: at(seconds) })),
  next,
  done_at: null,
  today: "",
});

describe("a heat led by its signs", () => {
  it.each([
    [flame(0), "Light the torch, away from the work."],
    [flame(1, [0, 0]), "Until the flux is a white crust."],
    [flame(null, [0, 0], [2, 40]), "Flame off."],
  ])("says what is waited for", (standing, words) => {
    expect(awaited(standing, STAGES)).toBe(words);
  });

  it("is there for a heat only", () => {
    const heat = { kind: "heat", stages: STAGES };
    expect(heatAt({ step: heat, flame: null } as unknown as RunView)).toBeNull();
    expect(heatAt({ step: heat, flame: flame(0) } as unknown as RunView)?.stages).toBe(STAGES);
    expect(heatAt({ step: { kind: "cool" }, flame: flame(0) } as unknown as RunView)).toBeNull();
  });

  it("marks the stage at hand, and tells when a sign was seen", () => {
    render(<StageList flame={flame(2, [0, 0], [1, 18])} stages={STAGES} />);
    const [first, second] = screen.getAllByRole("listitem");
    expect(first?.textContent).toMatch(/✓ 18 s/);
    expect(first?.getAttribute("aria-current")).toBeNull();
    expect(second?.getAttribute("aria-current")).toBe("step");
  });

  it.each([
    [flame(0), "The flame is lit"],
    [flame(1, [0, 0]), "I see it"],
    [flame(2, [0, 0], [1, 9]), "I see it: flame off"],
  ])("is pressed on by one wide key", async (standing, words) => {
    const [seen, wrong] = [vi.fn(), vi.fn()];
    const nothing = () => {};
    render(
      <SignKey
        flame={standing}
        stages={STAGES}
        onSeen={seen}
        onWrong={wrong}
        onBack={nothing}
        onNote={nothing}
        onSkip={nothing}
      />,
    );
    await userEvent.click(screen.getByText(words));
    expect(seen).toHaveBeenCalledTimes(1);
    await userEvent.click(screen.getByRole("button", { name: "It went otherwise" }));
    expect(wrong).toHaveBeenCalledTimes(1);
  });

  it("shows the moment it is drawn at, however long no clock was on the screen", () => {
    vi.useFakeTimers({ now: Date.UTC(2026, 10, 26, 8, 0, 0), toFake: ["Date"] });
    try {
      const clock = (after: number) => {
        vi.setSystemTime(Date.UTC(2026, 10, 26, 8, 0, after));
        const run = { ...HEAT, now: at(after) };
        render(<FlameClock run={run} flame={flame(1, [0, 0])} asOf={Date.now()} />);
      };
      clock(0);
      expect(screen.getByText("0:00")).toBeTruthy();
      cleanup();
      clock(47);
      expect(screen.getByText("0:47")).toBeTruthy();
    } finally {
      vi.useRealTimers();
    }
  });

  it("counts from the lit flame, and stops with the last sign", () => {
    const run = { ...HEAT, now: at(60) };
    const { rerender } = render(<FlameClock run={run} flame={flame(0)} asOf={Date.now()} />);
    expect(screen.getByText("the clock begins when the flame is lit")).toBeTruthy();
    rerender(<FlameClock run={run} flame={flame(null, [0, 0], [2, 41])} asOf={Date.now()} />);
    expect(screen.getByText("0:41")).toBeTruthy();
    const told = {
      ...flame(2, [0, 0], [1, 20]),
      done_at: at(72),
      today: "runs in about 52 s; a weak flame today",
    };
    rerender(<FlameClock run={run} flame={told} asOf={Date.now()} />);
    expect(screen.getByText(/0:1\d to go/)).toBeTruthy();
    expect(screen.getByText(/a weak flame today/)).toBeTruthy();
  });
});

describe("where the flame goes", () => {
  const [dry, runs] = [
    { aim: "dry", about: null },
    { aim: "far", about: "plate" },
  ] as const;
  const led = STAGES.map((stage, n) => ({ ...stage, ...(n === 0 ? dry : runs) }));
  const seen = (step: object, standing: Flame, off_ms: number | null = null, outcomes: object[] = []) =>
    flameNow({
      view: { step: { kind: "heat", ...step }, flame: standing },
      turn: { off_ms, outcomes },
    } as RunHere);

  it.each([
    ["before it is lit as in the first stage", { stages: led }, flame(0), dry],
    ["as in the stage at hand", { stages: led }, flame(2, [0, 0], [1, 18]), runs],
    ["nowhere when the last sign was seen", { stages: led }, flame(null, [0, 0], [2, 40]), null],
    ["as told of the heat where none was rehearsed", { stages: [], ...runs }, flame(null, [0, 0]), runs],
    ["nowhere where nobody told", { stages: STAGES, ...runs }, flame(1, [0, 0]), null],
  ])("is %s", (_, step, standing, told) => {
    expect(seen(step, standing)).toEqual(told);
  });

  it("is nowhere once it is off", () => {
    expect(seen({ stages: [], ...runs }, flame(null, [0, 0]), 1_000)).toBe(null);
    expect(seen({ stages: [], ...runs }, flame(null, [0, 0]), null, [{ join: "foot" }])).toBe(null);
  });
});

describe("the flame on the picture", () => {
  const square = (x: number, wide = 0) => ({
    points: [
      [x, 0],
      [x + 10, 0],
      [x + 10, 10],
      [x, 10],
    ],
    closed: wide === 0,
    width_mm: wide,
    faint: false,
  });
  const WAY = "path, circle:not([data-begins]), rect";
  const SEEN = {
    view: "above",
    x: 0,
    y: 0,
    parts: [
      { node: "plate", part: "plate", lines: [square(0)], alike: 1 },
      { node: "post#1", part: "post", lines: [square(20, 1)], alike: 1 },
    ],
    joins: [
      {
        join: "foot",
        number: 1,
        spots: [
          [5, 5],
          [25, 5],
        ],
      },
      { join: "seam", number: 2, spots: [[8, 8]] },
    ],
  } as unknown as Seen;
  const drawn = (aim: string, about: string | null, side: Side = "left", what = WAY) => {
    const { container } = render(
      <svg>
        <title>the work</title>
        <FlameAt seen={SEEN} unit={1} flame={{ aim, about }} side={side} />
      </svg>,
    );
    return [...container.querySelectorAll(what)].map((one) =>
      Object.fromEntries(
        ["d", "cx", "cy", "x", "y", "width", "height"].flatMap((name) => {
          const value = one.getAttribute(name);
          return value === null ? [] : [[name, value]];
        }),
      ),
    );
  };

  it("begins at the side at which the torch is held, and is mirrored for the other hand", () => {
    const begins = "[data-begins]";
    expect(drawn("walk", "post", "left", begins)).toEqual([{ cx: "20", cy: "0" }]);
    expect(drawn("circle", null, "left", begins)).toEqual([{ cx: "-8", cy: "5" }]);
    expect(drawn("circle", null, "right", begins)).toEqual([{ cx: "38", cy: "5" }]);
    expect(
      begunAt(
        "right",
        [
          [0, 0],
          [4, 1],
          [2, 3],
        ],
        true,
      )[0],
    ).toEqual([4, 1]);
    const open = [
      [3, 0],
      [9, 1],
      [7, 5],
    ];
    expect(begunAt("left", open, false)).toEqual(open);
    expect(begunAt("right", open, false)).toEqual(open.toReversed());
  });

  it("goes inside the edge of a plate", () => {
    expect(drawn("part", "plate")).toEqual([{ d: "M1 1L9 1L9 9L1 9Z" }]);
  });

  it("goes along the middle of a wire, whichever of several alike it is", () => {
    expect(drawn("walk", "post")).toEqual([{ d: "M20 0L30 0L30 10L20 10" }]);
  });

  it("goes round all of the work, or past the edge of one part", () => {
    expect(drawn("circle", null)).toEqual([{ x: "-8", y: "-8", width: "46", height: "26" }]);
    expect(drawn("beyond", "plate")).toEqual([{ x: "-8", y: "-8", width: "26", height: "26" }]);
  });

  it("goes to each place of the joins, or to those of one", () => {
    const at = (cx: number, cy: number) => ({ cx: String(cx), cy: String(cy) });
    expect(drawn("each", null)).toEqual([at(5, 5), at(25, 5), at(8, 8)]);
    expect(drawn("join", "seam")).toEqual([at(8, 8)]);
  });
});
