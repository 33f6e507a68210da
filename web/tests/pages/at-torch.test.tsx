// @vitest-environment happy-dom
import { act, cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { RunView } from "../../src/api/types";
import { nextCue, sound } from "../../src/run/cue";
import { atTorch, keepAtTorch } from "../../src/run/kept";
import { whyNoPedal } from "../../src/run/pedal";
import { useAwake } from "../../src/run/useAwake";
import { openAt, user } from "../app";
import { elsewhere, newDevice, runAt, said, serveRun } from "../theRun";

beforeEach(async () => {
  localStorage.clear();
  await newDevice();
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

describe("a pedal", () => {
  it.each([
    ["pagedown", null],
    ["f13", null],
    ["space", /goes on already/],
    ["b", /already means “Back”/],
    ["2", /how a join came out/],
    ["?", /already means “Show the keys”/],
    ["enter", /presses the button/],
    ["tab", /next thing|one thing to the next/],
    ["shift", /nothing by itself/],
  ])("that sends %s: %s", (key, why) => {
    const told = whyNoPedal(key);
    if (why === null) expect(told).toBeNull();
    else expect(told).toMatch(why);
  });

  it("is learnt by a press, goes on to the next from then on, and is kept", async () => {
    const { pressed } = serveRun(runAt("work"));
    openAt("/run/1");
    await user.click(await screen.findByRole("button", { name: "Pedal and sound" }));
    const learn = await screen.findByRole("button", { name: "Learn a pedal" });
    await user.click(learn);
    fireEvent.keyDown(learn, { key: "b" });
    expect((await screen.findByRole("alert")).textContent).toMatch(/already means “Back”/);
    expect(atTorch().pedal).toBeNull();
    fireEvent.keyDown(learn, { key: "PageDown" });
    expect(await screen.findByRole("button", { name: "Learn another" })).toBeTruthy();
    await waitFor(() => expect(screen.queryByRole("alert")).toBeNull());
    await user.click(await screen.findByRole("button", { name: "Close" }));
    await waitFor(() => expect(screen.queryByRole("dialog")).toBeNull());
    expect(pressed).toHaveLength(0);
    fireEvent.keyDown(document.body, { key: "PageDown" });
    await screen.findByText("step 3 of 15");
    await waitFor(() => expect(said(pressed)).toEqual([{ kind: "next", turn: "2", confirmed: false }]));
    expect(atTorch().pedal).toBe("pagedown");
  });

  it("is a letter in a field, and does nothing once it is forgotten", async () => {
    keepAtTorch({ pedal: "x" });
    const { pressed } = serveRun(runAt("work"));
    openAt("/run/1");
    await screen.findByText(/^step \d+ of 15$/);
    fireEvent.keyDown(document.body, { key: "n" });
    fireEvent.keyDown(await screen.findByLabelText("Note"), { key: "x" });
    await user.click(await screen.findByRole("button", { name: "Pedal and sound" }));
    await user.click(await screen.findByRole("button", { name: "Forget it" }));
    await user.click(await screen.findByRole("button", { name: "Close" }));
    fireEvent.keyDown(document.body, { key: "x" });
    expect(pressed).toHaveLength(0);
    expect(atTorch().pedal).toBeNull();
  });
});

it.each(["", "null", "nonsense{", '{"pedal": 3, "cue": "loud"}'])(
  "what cannot be read is nothing: %s",
  (text) => {
    localStorage.setItem("eskel-at-torch", text);
    expect(atTorch()).toEqual({ pedal: null, cue: "off" });
  },
);

const at = (seconds: number) => new Date(Date.UTC(2026, 10, 26, 8, 0, seconds)).toISOString();
const STAGES = [
  { text: "", see: "the crust", likely_s: 15 },
  { text: "", see: "the line has run", likely_s: 20 },
];
const led = (next: number | null, lit: boolean, done_at: string | null) =>
  ({
    position: 1,
    again: 1,
    step: { kind: "heat", stages: STAGES },
    flame: { signs: lit ? [{ stage: 0, at: at(0) }] : [], next, done_at, today: "" },
    steps: [],
    records: [],
  }) as unknown as RunView;

describe("the next cue", () => {
  it.each([
    ["before the flame is lit: none", led(0, false, null), null],
    ["as rehearsed", led(1, true, null), [15, "Look: the crust"]],
    ["with a weak torch today, half as long again", led(1, true, at(30)), [22.5, "Look: the crust"]],
    ["of the last stage", led(2, true, at(30)), [30, "Look: the line has run"]],
    ["with the flame off: none", led(null, true, null), null],
  ])("%s", (_, run, told) => {
    const due = nextCue(run);
    expect(due && [(due.at - Date.parse(at(0))) / 1000, due.says]).toEqual(told);
  });
});

describe("what is heard", () => {
  const speak = vi.fn();
  class Said {
    constructor(readonly text: string) {}
  }
  beforeEach(() => {
    speak.mockClear();
    vi.stubGlobal("speechSynthesis", { speak, cancel: vi.fn() });
    vi.stubGlobal("SpeechSynthesisUtterance", Said);
  });

  it("is nothing where nothing was chosen, else the words", () => {
    sound("off", "Look");
    expect(speak).not.toHaveBeenCalled();
    sound("spoken", "Look");
    expect(speak).toHaveBeenCalledWith(new Said("Look"));
  });

  it("comes once, when a timer of the run is over", async () => {
    vi.useFakeTimers({ now: Date.parse(at(0)), toFake: ["Date", "setInterval", "clearInterval"] });
    keepAtTorch({ cue: "spoken" });
    const run = runAt("work", {}, { waits_low_ms: 10_000, waits_high_ms: 20_000 });
    for (const event of run.events) event.at_ms = Date.now();
    serveRun({ ...run, sheet: { ...run.sheet, began_ms: Date.now() } });
    openAt("/run/1");
    await screen.findByText(/^step \d+ of 15$/);
    await act(() => vi.advanceTimersByTimeAsync(9_000));
    expect(speak).not.toHaveBeenCalled();
    await act(() => vi.advanceTimersByTimeAsync(5_000));
    expect(speak).toHaveBeenCalledTimes(1);
  });
});

const press = (key: string) => fireEvent.keyDown(document.body, { key });

describe("what cools", () => {
  const NEXT = expect.objectContaining({ kind: "next" });
  const WAITS = { kind: "cool", waits_low_ms: 600_000, waits_high_ms: 600_000 };
  const cooling = (step: object) => {
    vi.useFakeTimers({ now: Date.parse(at(0)), toFake: ["Date", "setInterval", "clearInterval"] });
    const run = runAt("work", { kind: "cool", how: "air-cool", ...step }, WAITS);
    for (const event of run.events) event.at_ms = Date.now();
    const { pressed } = serveRun({ ...run, sheet: { ...run.sheet, began_ms: Date.now() } });
    openAt("/run/1");
    return pressed;
  };

  it("and is closed goes on only when its time is over: no key and no touch, nor left out", async () => {
    const pressed = cooling({ to_the_end: true });
    const key = await screen.findByRole<HTMLButtonElement>("button", { name: /Still hot/ });
    expect(key.disabled).toBe(true);
    expect(screen.getByRole<HTMLButtonElement>("button", { name: /Skip/ }).disabled).toBe(true);
    for (const named of [" ", "s"]) press(named);
    await act(() => vi.advanceTimersByTimeAsync(598_000));
    expect(said(pressed)).toEqual([]);
    await act(() => vi.advanceTimersByTimeAsync(4_000));
    press(" ");
    vi.useRealTimers();
    await waitFor(() => expect(said(pressed)).toEqual([NEXT]));
  });

  it("and is open may be found cold before its time", async () => {
    const pressed = cooling({ to_the_end: false });
    await screen.findByRole("button", { name: /It is cold already/ });
    press(" ");
    vi.useRealTimers();
    await waitFor(() => expect(said(pressed)).toEqual([NEXT]));
  });
});

describe("a caution at the torch", () => {
  const stages = [{ ...STAGES[0], text: "Dry the flux.", sign: "crust", if_late: "", low_s: 10, high_s: 20 }];
  const caution = (severity: string, text: string) => ({
    code: `of-${severity}`,
    severity,
    about: [],
    text,
    remedy: "Shield it",
  });
  const cautions = [caution("warn", "The wall is thin."), caution("danger", "It may burst.")];
  const heat = (lit: boolean) => {
    const run = runAt("heat", { stages }, { stages: 1 });
    run.sheet.cautions = cautions.map((one) => ({ ...one, step: 4 })) as never;
    if (lit) run.events.push(elsewhere(run, { kind: "lit", turn: "4" }));
    return run;
  };

  it.each([
    ["is whole before the flame is lit", false],
    ["is its first words once it was read and the flame burns", true],
  ])("%s", async (_, lit) => {
    serveRun(heat(lit));
    openAt("/run/1");
    const thin = await screen.findByText(/The wall is thin/);
    expect(/Shield it/.test(thin.parentElement?.textContent ?? "")).toBe(!lit);
    // What can hurt someone stays whole.
    await waitFor(() =>
      expect(screen.getByText(/It may burst/).parentElement?.textContent).toMatch(/danger: .*Shield it/),
    );
  });
});

function Screen() {
  return <p>{useAwake()}</p>;
}

describe("the screen", () => {
  it("is kept on, asked for again when the page is seen again, and let go on leaving", async () => {
    const locks: EventTarget[] = [];
    const release = vi.fn(() => Promise.resolve());
    const request = vi.fn(() => {
      const lock = Object.assign(new EventTarget(), { release });
      locks.push(lock);
      return Promise.resolve(lock);
    });
    vi.stubGlobal("navigator", { wakeLock: { request } });
    const shown = render(<Screen />);
    await screen.findByText("kept");
    act(() => void locks[0]?.dispatchEvent(new Event("release")));
    await waitFor(() => expect(screen.getByText("not kept")).toBeTruthy());
    act(() => void document.dispatchEvent(new Event("visibilitychange")));
    await screen.findByText("kept");
    expect(request).toHaveBeenCalledTimes(2);
    shown.unmount();
    expect(release).toHaveBeenCalledTimes(1);
  });

  it("may go dark where the device refuses, or knows nothing of it", async () => {
    const request = vi.fn(() => Promise.reject(new Error("battery low")));
    vi.stubGlobal("navigator", { wakeLock: { request } });
    render(<Screen />);
    await waitFor(() => expect(request).toHaveBeenCalled());
    await waitFor(() => expect(screen.getByText("not kept")).toBeTruthy());
    cleanup();
    vi.stubGlobal("navigator", {});
    render(<Screen />);
    await waitFor(() => expect(screen.getByText("not kept")).toBeTruthy());
  });
});
