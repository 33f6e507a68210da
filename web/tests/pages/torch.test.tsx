// @vitest-environment happy-dom
import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Rail, RunSheet } from "../../src/api/types";
import { openAt, user } from "../app";
import { elsewhere, newDevice, runAt, said, serveRun } from "../theRun";
import { askedFor, Refused, recorded, serve } from "../wire";

beforeEach(newDevice);
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

const JOIN = "stem-on";
const WORDS = recorded<RunSheet>("GET /api/runs/{key}/sheet").words;
const press = (key: string) => fireEvent.keyDown(document.body, { key });
const asked = () => screen.findByRole("group", { name: "How did Stem overlay come out?" });
/** A heat whose flame was lit and put out: how it came out is asked. */
const heat = () => {
  const run = runAt("heat");
  run.events.push(elsewhere(run, { kind: "lit", turn: "4" }));
  run.events.push(elsewhere(run, { kind: "off", turn: "4" }));
  return run;
};

describe("a step at the torch", () => {
  it("tells the whole step: its words, what to look for, how far the run is", async () => {
    serveRun(runAt("heat"));
    openAt("/run/1");
    expect(await screen.findByRole("heading", { name: /bring Stem overlay to 798 °C/ })).toBeTruthy();
    expect(screen.getByText(/always moving; let Raised stem come along/)).toBeTruthy();
    expect(screen.getByText("step 4 of 15")).toBeTruthy();
    const signs = within(screen.getByRole("list", { name: "What to look for" })).getAllByRole("listitem");
    expect(signs.map((sign) => sign.textContent?.split("C")[0])).toEqual([
      "100 °",
      "200 °",
      "430 °",
      "595 °",
      "788 °",
    ]);
  });

  it("is gone on from by the space bar, and what comes is shown", async () => {
    const { pressed } = serveRun(runAt("work"));
    openAt("/run/1");
    await screen.findByText("step 2 of 15");
    press(" ");
    await screen.findByText("step 3 of 15");
    await waitFor(() => expect(said(pressed)).toEqual([{ kind: "next", turn: "2", confirmed: false }]));
  });

  it("that must be read is left by saying so", async () => {
    const { pressed } = serveRun(runAt("prepare", { confirm: true }, { confirm: true }));
    openAt("/run/1");
    await user.click(await screen.findByRole("button", { name: /I have read it/ }));
    await screen.findByText("step 2 of 15");
    await waitFor(() => expect(said(pressed)).toEqual([{ kind: "next", turn: "1", confirmed: true }]));
  });

  it("of a heat begins with the lit flame, from which the clock runs", async () => {
    const { pressed } = serveRun(runAt("heat"));
    openAt("/run/1");
    await screen.findByText(/the clock begins when the flame is lit/);
    press(" ");
    await screen.findByRole("button", { name: /Flame off/ });
    expect(screen.getByText(/since the flame was lit/)).toBeTruthy();
    expect(screen.queryByRole("group", { name: /come out/ })).toBe(null);
    press(" ");
    await asked();
    expect(screen.getByText(/under the flame/)).toBeTruthy();
    press("b");
    await screen.findByRole("button", { name: /Flame off/ });
    press("b");
    await screen.findByText(/the clock begins when the flame is lit/);
    await waitFor(() => expect(said(pressed)).toHaveLength(4));
    expect(said(pressed)).toEqual([
      { kind: "lit", turn: "4" },
      { kind: "off", turn: "4" },
      { kind: "undo", of: pressed[1]?.id },
      { kind: "undo", of: pressed[0]?.id },
    ]);
  });

  it("of a heat is not left before each join has its outcome: the space bar says that it flowed", async () => {
    const { pressed } = serveRun(heat());
    openAt("/run/1");
    await asked();
    press(" ");
    await screen.findByRole("button", { name: /Next/ });
    await waitFor(() =>
      expect(said(pressed)).toEqual([{ kind: "outcome", turn: "4", join: JOIN, outcome: "flowed" }]),
    );
  });

  it.each(WORDS.slice(1).map((word) => [word.key, word.outcome] as const))(
    "%s says %s",
    async (key, outcome) => {
      const { pressed } = serveRun(heat());
      openAt("/run/1");
      await asked();
      press(key);
      await waitFor(() =>
        expect(said(pressed)).toEqual([{ kind: "outcome", turn: "4", join: JOIN, outcome }]),
      );
    },
  );

  it("of several joins takes one word for one, and one key for all that are left", async () => {
    const run = heat();
    const [row] = (run.sheet.steps[3] as { joins: object[] }).joins;
    const more = ["left", "right"].map((join) => ({ ...row, join, title: join }));
    Object.assign(run.sheet.steps[3] ?? {}, { joins: [row, ...more] });
    Object.assign(run.sheet.faces[3] ?? {}, { joins: [JOIN, "left", "right"] });
    const { pressed } = serveRun(run);
    openAt("/run/1");
    await asked();
    press("2");
    await screen.findByRole("group", { name: "How did left come out?" });
    press("a");
    await screen.findByText(/Not sound yet/);
    await waitFor(() => expect(said(pressed)).toHaveLength(3));
    expect(said(pressed)).toEqual(
      [
        [JOIN, "short"],
        ["left", "flowed"],
        ["right", "flowed"],
      ].map(([join, outcome]) => ({ kind: "outcome", turn: "4", join, outcome })),
    );
  });

  it("takes the outcome back first, then the flame, and only then the step", async () => {
    const run = heat();
    run.events.push(elsewhere(run, { kind: "outcome", turn: "4", join: JOIN, outcome: "flowed" }));
    serveRun(run);
    openAt("/run/1");
    await screen.findByRole("button", { name: /Next/ });
    press("b");
    await asked();
    press("b");
    await screen.findByRole("button", { name: /Flame off/ });
    press("b");
    await screen.findByText(/the clock begins when the flame is lit/);
    press("b");
    await screen.findByText("step 3 of 15");
  });

  it("that opened another asks which, and offers to heat that one again", async () => {
    const run = heat();
    const early = {
      join: "early",
      title: "Early seam",
      solder: null,
      grade: null,
      placing: null,
      amount: null,
    };
    Object.assign(run.sheet.steps[1] ?? {}, {
      kind: "heat",
      heat_no: 9,
      joins: [early],
      stages: [],
      states: {},
    });
    Object.assign(run.sheet.faces[1] ?? {}, { kind: "heat", joins: ["early"] });
    Object.assign(run.sheet.steps[3] ?? {}, { states: { early: "soft" } });
    for (const event of run.events) if (event.kind === "next" && event.turn === "2") event.skipped = true;
    const { pressed } = serveRun(run);
    openAt("/run/1");
    await asked();
    press("6");
    const which = within(await screen.findByRole("group", { name: "Which has opened?" }));
    expect(which.getAllByRole("button").map((one) => one.textContent)).toEqual(["2Early seam"]);
    expect(screen.queryByRole("group", { name: "What can be tried" })).toBe(null);
    expect(screen.getByText("Not known yet")).toBeTruthy();
    press("2");
    const opened = within(await screen.findByRole("group", { name: "What opened" }));
    const [again] = opened.getAllByRole("button");
    expect(again?.textContent).toBe("4Again: Early seam");
    press("4");
    await screen.findByText("second try");
    await waitFor(() =>
      expect(said(pressed)).toEqual([
        { kind: "outcome", turn: "4", join: JOIN, outcome: "opened-another" },
        { kind: "outcome", turn: "2", join: "early", outcome: "moved" },
        { kind: "again", turn: "4", of: "2", ways: [], joins: ["early"] },
      ]),
    );
  });

  it("that opened one that nobody has found goes on to what can be tried", async () => {
    const run = heat();
    Object.assign(run.sheet.steps[3] ?? {}, { states: { "never-made": "soft" } });
    serveRun(run);
    openAt("/run/1");
    await asked();
    press("6");
    await screen.findByRole("group", { name: "What can be tried" });
    expect(screen.queryByRole("group", { name: "Which has opened?" })).toBe(null);
  });

  it("that did not come out sound offers what fits, best first, each by a key; on takes it as it is", async () => {
    const { pressed } = serveRun(heat());
    openAt("/run/1");
    await asked();
    press("3");
    const offered = within(await screen.findByRole("group", { name: "What can be tried" }));
    expect(offered.getAllByRole("button").map((one) => one.textContent)).toEqual([
      "2Into the pot first, then again",
      "3Again, with flux and a touch more solder",
      "4Again, with another tip or torch",
      "5Again, more heat on the heavy side",
    ]);
    expect(screen.getByRole("button", { name: /Take it as it is/ })).toBeTruthy();
    press("3");
    expect(await screen.findByText("second try")).toBeTruthy();
    expect(screen.getByText(/lay a touch more solder/)).toBeTruthy();
    await waitFor(() => expect(pressed).toHaveLength(2));
    expect(said(pressed)[1]).toEqual({
      kind: "again",
      turn: "4",
      of: "4",
      ways: ["flux-and-solder"],
      joins: [JOIN],
    });
  });

  it("of looking passes by the space bar, or sends back to a heat by a key", async () => {
    const run = heat();
    run.events.push(elsewhere(run, { kind: "outcome", turn: "4", join: JOIN, outcome: "flowed" }));
    run.events.push(elsewhere(run, { kind: "next", turn: "4" }));
    Object.assign(run.sheet.steps[4] ?? {}, { kind: "inspect", checks: [], heats: [1] });
    Object.assign(run.sheet.faces[4] ?? {}, { kind: "inspect" });
    const { pressed } = serveRun(run);
    openAt("/run/1");
    const group = within(await screen.findByRole("group", { name: "What does not pass" }));
    expect(group.getAllByRole("button").map((one) => one.textContent)).toEqual(["2Again: Stem overlay"]);
    expect(screen.getByRole("button", { name: /It passes/ })).toBeTruthy();
    press("2");
    expect(await screen.findByText("second try")).toBeTruthy();
    await waitFor(() =>
      expect(said(pressed)).toEqual([{ kind: "again", turn: "5", of: "4", ways: [], joins: [] }]),
    );
  });

  const looked = (checks: object[]) => {
    const run = heat();
    run.events.push(elsewhere(run, { kind: "outcome", turn: "4", join: JOIN, outcome: "flowed" }));
    run.events.push(elsewhere(run, { kind: "next", turn: "4" }));
    Object.assign(run.sheet.steps[4] ?? {}, { kind: "inspect", checks, heats: [1] });
    Object.assign(run.sheet.faces[4] ?? {}, { kind: "inspect", checks: checks.length });
    return run;
  };
  const AT_JOIN = {
    about: JOIN,
    how: "is solder all round",
    passes: "a bright line",
    otherwise: "flux again",
  };
  const AT_ALL = { about: "plate", how: "is it flat", passes: "no light", otherwise: "tap it flat" };

  it("of looking asks one look after another, each by a key", async () => {
    const { pressed } = serveRun(looked([AT_JOIN, AT_ALL]));
    openAt("/run/1");
    expect(await screen.findByRole("heading", { name: "Stem overlay: is solder all round" })).toBeTruthy();
    press(" ");
    expect(await screen.findByRole("heading", { name: "plate: is it flat" })).toBeTruthy();
    press("b");
    expect(await screen.findByRole("heading", { name: "Stem overlay: is solder all round" })).toBeTruthy();
    press("a");
    expect(await screen.findByText("It passes")).toBeTruthy();
    expect(screen.queryByRole("group", { name: "What does not pass" })).toBe(null);
    await waitFor(() =>
      expect(said(pressed)).toMatchObject([
        { kind: "look", turn: "5", check: 1, passes: true },
        { kind: "undo" },
        { kind: "look", turn: "5", check: 1, passes: true },
        { kind: "look", turn: "5", check: 2, passes: true },
      ]),
    );
  });

  it("of looking passes what is flooded: that is filed, not heated again", async () => {
    const { pressed } = serveRun(looked([AT_JOIN]));
    openAt("/run/1");
    await screen.findByRole("heading", { name: "Stem overlay: is solder all round" });
    press("4");
    expect(await screen.findByText("It passes")).toBeTruthy();
    expect(screen.queryByRole("group", { name: /What/ })).toBe(null);
    await waitFor(() =>
      expect(said(pressed)).toEqual([
        { kind: "look", turn: "5", check: 1, passes: true },
        { kind: "outcome", turn: "4", join: JOIN, outcome: "flooded" },
      ]),
    );
  });

  it("of looking sets right how a join came out, and offers what fits that", async () => {
    const { pressed } = serveRun(looked([AT_JOIN, AT_ALL]));
    openAt("/run/1");
    await screen.findByRole("heading", { name: "Stem overlay: is solder all round" });
    press("5");
    await screen.findByRole("heading", { name: "plate: is it flat" });
    press(" ");
    const tries = within(await screen.findByRole("group", { name: "What can be tried" }));
    expect(tries.getAllByRole("button").map((one) => one.textContent)).toEqual([
      "2Take it apart and set it anew",
      "3Again, with flux and a touch more solder",
    ]);
    expect(screen.queryByRole("group", { name: "What does not pass" })).toBe(null);
    expect(screen.getByText("flux again.")).toBeTruthy();
    press("2");
    await screen.findByText("second try");
    await waitFor(() =>
      expect(said(pressed)).toEqual([
        { kind: "look", turn: "5", check: 1, passes: false },
        { kind: "outcome", turn: "4", join: JOIN, outcome: "moved" },
        { kind: "look", turn: "5", check: 2, passes: true },
        { kind: "again", turn: "5", of: "4", ways: ["apart"], joins: [JOIN] },
      ]),
    );
  });

  it("goes back no further than the first", async () => {
    const { pressed } = serveRun(runAt("prepare"));
    openAt("/run/1");
    const back = await screen.findByRole("button", { name: /Back/ });
    expect(back.hasAttribute("disabled")).toBe(true);
    press("b");
    press("n");
    await screen.findByLabelText("Note");
    expect(pressed).toEqual([]);
  });

  it("is skipped by a key of its own, never by the space bar", async () => {
    const { pressed } = serveRun(runAt("work"));
    openAt("/run/1");
    await screen.findByRole("button", { name: /Skip/ });
    press("s");
    await waitFor(() => expect(said(pressed)).toEqual([{ kind: "next", turn: "2", skipped: true }]));
  });

  it("is left once by a key that is pressed twice before the next is there", async () => {
    const { pressed } = serveRun(runAt("work"));
    openAt("/run/1");
    await screen.findByText("step 2 of 15");
    press(" ");
    press(" ");
    await screen.findByText("step 3 of 15");
    await waitFor(() => expect(pressed).toHaveLength(1));
    expect(screen.getByText("step 3 of 15")).toBeTruthy();
  });
});

describe("what is alike at the torch", () => {
  it("is counted by a key, what is lost by another, every press is kept, and no further than there are", async () => {
    const { pressed } = serveRun(runAt("work", { alike: 5 }, { alike: 5 }));
    openAt("/run/1");
    const tally = within(await screen.findByRole("group", { name: "Done of those alike" }));
    for (const [key, shown] of [
      ["t", "1 of 5"],
      ["t", "2 of 5"],
      ["l", "2 of 51 lost"],
      ["t", "3 of 51 lost"],
      ["t", "4 of 51 lost"],
    ] as const) {
      press(key);
      await waitFor(() => expect(tally.getByRole("status").textContent).toBe(shown));
    }
    press("t");
    press("l");
    await user.click(tally.getByRole("button", { name: "One less" }));
    await waitFor(() => expect(tally.getByRole("status").textContent).toBe("3 of 51 lost"));
    await waitFor(() => expect(pressed).toHaveLength(6));
    expect(said(pressed).at(-2)).toEqual({ kind: "tally", turn: "2", done: 4, lost: 1 });
  });

  it("has no tally where there is one", async () => {
    serveRun(runAt("work"));
    openAt("/run/1");
    await screen.findByText("step 2 of 15");
    expect(screen.queryByRole("group", { name: "Done of those alike" })).toBeNull();
  });
});

describe("a size that is checked", () => {
  const target = { mm: 17.3, within_mm: 0.1, what: "inside" };

  it.each([
    ["17.35{Enter}", 17.35, "as it is to be"],
    ["17.6{Enter}", 17.6, "0.30 mm too large"],
    ["17{Enter}", 17, "0.30 mm too small"],
  ])("is written down and judged: %s", async (typed, value, words) => {
    const { pressed } = serveRun(runAt("work", { target }));
    openAt("/run/1");
    const field = await screen.findByLabelText("Measured");
    await user.clear(field);
    await user.type(field, typed);
    expect(await screen.findByText(words)).toBeTruthy();
    await waitFor(() =>
      expect(said(pressed)).toEqual([{ kind: "measure", turn: "2", what: "size_mm", value }]),
    );
  });
});

describe("a note at the torch", () => {
  it("is written by n, and the step stays; what is typed is no key", async () => {
    const { pressed } = serveRun(runAt("work"));
    openAt("/run/1");
    await screen.findByRole("button", { name: /Note/ });
    press("n");
    await user.type(await screen.findByLabelText("Note"), "sank by b 3{Enter}");
    await waitFor(() =>
      expect(said(pressed)).toEqual([{ kind: "note", turn: "2", text: "sank by b 3", replaces: null }]),
    );
    expect(screen.queryByLabelText("Note")).toBeNull();
    expect(screen.getByText("step 2 of 15")).toBeTruthy();
  });

  it("takes the place of the one that stood there, and leaves one that another screen wrote meanwhile", async () => {
    const run = runAt("work");
    run.events.push(elsewhere(run, { kind: "note", turn: "2", text: "thin flux" }));
    const { pressed, take } = serveRun(run);
    openAt("/run/1");
    await screen.findByRole("button", { name: /Note/ });
    press("n");
    const field = await screen.findByLabelText<HTMLInputElement>("Note");
    expect(field.value).toBe("thin flux");
    take(elsewhere(run, { kind: "note", turn: "2", text: "from the phone" }));
    await user.type(field, " on the left{Enter}");
    await waitFor(() => expect(pressed).toHaveLength(1));
    expect(said(pressed)[0]).toMatchObject({ text: "thin flux on the left", replaces: "other-screen-1" });
    // What the phone wrote comes with the answer: the note is opened again until it is there.
    await waitFor(() => {
      press("n");
      const note = screen.getByLabelText<HTMLInputElement>("Note");
      if (note.value !== "from the phone · thin flux on the left") fireEvent.keyDown(note, { key: "Escape" });
      expect(note.value).toBe("from the phone · thin flux on the left");
    });
  });

  it("is let go by Escape", async () => {
    const { pressed } = serveRun(runAt("work"));
    openAt("/run/1");
    await screen.findByRole("button", { name: /Note/ });
    press("n");
    await user.type(await screen.findByLabelText("Note"), "never mind{Escape}");
    await waitFor(() => expect(screen.queryByLabelText("Note")).toBeNull());
    expect(pressed).toEqual([]);
  });
});

describe("a run", () => {
  it("is stopped only after it was asked", async () => {
    const { pressed } = serveRun(heat());
    openAt("/run/1");
    await user.click(await screen.findByRole("button", { name: "Stop" }));
    const ask = await screen.findByRole("dialog");
    expect(ask.contains(document.activeElement)).toBe(true);
    fireEvent.keyDown(document.activeElement ?? document.body, { key: "2" });
    await user.click(within(ask).getByRole("button", { name: "Stop the run" }));
    expect(await screen.findByText("The run of Reed brooch was stopped.")).toBeTruthy();
    await waitFor(() => expect(said(pressed)).toEqual([{ kind: "stop", turn: "4" }]));
  });

  it("that has gone on elsewhere is shown as it stands, and so is that the press here was set aside", async () => {
    const run = runAt("work");
    const { take } = serveRun(run);
    openAt("/run/1");
    await screen.findByText("step 2 of 15");
    take(elsewhere(run, { kind: "next", turn: "2" }));
    press(" ");
    expect(await screen.findByText(/Another screen had gone on before/)).toBeTruthy();
    expect(screen.getByText("step 3 of 15")).toBeTruthy();
    press(" ");
    await screen.findByText("step 4 of 15");
    expect(screen.queryByText(/Another screen had gone on before/)).toBeNull();
  });

  it("that cannot be read says where it lies, and can be stopped from there", async () => {
    const rail = recorded<{ now: string; entries: unknown[] }>("GET /api/rail");
    serve({
      "GET /api/rail": rail,
      "GET /api/pieces": [],
      "GET /api/runs/1/sheet": new Refused("unreadable", 409, "plan.steps[2].kind"),
      "POST /api/runs/1/stop": {},
    });
    const { where } = openAt("/run/1");
    expect(await screen.findByText(/plan\.steps\[2\]\.kind/)).toBeTruthy();
    await user.click(await screen.findByRole("button", { name: "Stop this run" }));
    await waitFor(() => expect(where()).toBe("/work"));
    expect(askedFor("POST /api/runs/1/stop")[0]?.body).toEqual({ at: 4 });
  });

  it("is left running, and stands in the rail", async () => {
    const rail = recorded<{ now: string; entries: unknown[] }>("GET /api/rail");
    serveRun(runAt("heat"), { "GET /api/rail": rail, "GET /api/pieces": [] });
    const { where } = openAt("/run/1");
    await user.click(await screen.findByRole("button", { name: "Leave it running" }));
    await waitFor(() => expect(where()).toBe("/work"));
    const strip = within(screen.getByRole("complementary", { name: "Running now" }));
    expect((await strip.findByRole("link")).textContent).toMatch(/^Reed brooch at the torchstep 4 of 15/);
  });
});

describe("a pot's timer", () => {
  const NOW_S = Date.UTC(2026, 1, 1, 9) / 1000;
  /** In the pot for so long already, of which it may come out after a time, and is to after another, s. */
  const pot = (waited: number, low: number, high: number) => {
    const run = runAt("heat", { kind: "pickle" }, { kind: "pickle" });
    const times = { waits_low_ms: low * 1000, waits_high_ms: high * 1000 };
    Object.assign(run.sheet.faces[3] ?? {}, times);
    run.sheet.began_ms = 0;
    for (const event of run.events) event.at_ms = Date.now() - waited * 1000;
    return run;
  };

  it.each([
    [0, 300, 600, "5:00", /then look; at the latest in 10:00/],
    [360, 300, 600, "4:00", /may come out/],
    [660, 300, 600, "1:00", /over its time/],
  ])("%i s after it went in, of %i to %i s, shows %s", async (waited, low, high, shown, words) => {
    vi.useFakeTimers({ now: NOW_S * 1000, toFake: ["Date"] });
    serveRun(pot(waited, low, high));
    openAt("/run/1");
    expect(await screen.findByText(words)).toBeTruthy();
    expect(screen.getByTestId("big-timer").textContent).toBe(shown);
  });

  it("names what of another piece can be done meanwhile", async () => {
    const other = {
      run: 7,
      piece_name: "Toggle clasp",
      text: "Fit the bar eye.",
      minutes: 4,
      why: "no-torch",
    };
    const rail = recorded<Rail>("GET /api/rail");
    const entry = { ...(rail.entries[0] as Rail["entries"][number]), run: 1, meanwhile: [other] };
    serveRun(pot(0, 300, 600), { "GET /api/rail": { ...rail, entries: [entry] } });
    openAt("/run/1");
    const meanwhile = within(await screen.findByRole("region", { name: "Meanwhile" }));
    const link = meanwhile.getByRole("link");
    expect(link.textContent).toBe("Toggle clasp Fit the bar eye.about 4.0 minneeds no torch");
    expect(link.getAttribute("href")).toBe("/run/7");
    expect(screen.getByText("Out before its time")).toBeTruthy();
  });
});

describe("a run that is over", () => {
  const over = (weighs_g: number | null) => {
    const run = runAt("work");
    run.events.push(elsewhere(run, { kind: "stop", turn: "2" }));
    run.sheet.weighs_g = weighs_g;
    return serveRun(run);
  };
  const write = async (label: string, text: string) => {
    const field = await screen.findByLabelText(label);
    await user.clear(field);
    await user.type(field, `${text}{Enter}`);
  };

  it("is weighed against what was cut, and keeps what worked and what to change", async () => {
    const { pressed } = over(13.25);
    openAt("/run/1");
    expect(await screen.findByText("13.25 g were cut and laid")).toBeTruthy();
    await write("It weighs, g", "12.5");
    expect(await screen.findByText("13.25 g were cut and laid: 0.75 g filed away")).toBeTruthy();
    await write("What worked", "charcoal turned over");
    await write("What to change next time", "two chips");
    await waitFor(() => expect(pressed).toHaveLength(3));
    await write("What to change next time", "one chip");
    const turn = "2";
    await waitFor(() =>
      expect(said(pressed)).toMatchObject([
        { kind: "measure", turn, what: "mass_g", value: 12.5 },
        { kind: "note", turn, text: "Worked: charcoal turned over", replaces: null },
        { kind: "note", turn, text: "Change: two chips", replaces: null },
        { kind: "note", turn, text: "Change: one chip", replaces: pressed[2]?.id },
      ]),
    );
  });

  it("takes back what is emptied, and compares with nothing that is not known", async () => {
    const { pressed } = over(null);
    openAt("/run/1");
    await write("It weighs, g", "12.5");
    await write("What worked", "slow");
    await waitFor(() => expect(pressed).toHaveLength(2));
    expect(screen.queryByText(/were cut and laid/)).toBe(null);
    await user.clear(screen.getByLabelText("What worked"));
    await user.tab();
    await write("It weighs, g", "0");
    await waitFor(() =>
      expect(said(pressed).slice(2)).toEqual([
        { kind: "undo", of: pressed[1]?.id },
        { kind: "undo", of: pressed[0]?.id },
      ]),
    );
  });
});
