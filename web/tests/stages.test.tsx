// @vitest-environment happy-dom
import { cleanup, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { RunView } from "../src/api/types";
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
