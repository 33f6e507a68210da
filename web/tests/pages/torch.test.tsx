// @vitest-environment happy-dom
import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { RunSheet } from "../../src/api/types";
import { openAt, user } from "../app";
import { elsewhere, newDevice, offered, runAt, said, serveRun } from "../theRun";
import { Refused, recorded } from "../wire";

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
    await waitFor(() => expect(screen.getByText(/always moving; let Raised stem come along/)).toBeTruthy());
    await waitFor(() => expect(screen.getByText("step 4 of 15")).toBeTruthy());
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
    const head = () => screen.getByRole("heading", { level: 1 }).textContent;
    const told = head();
    expect(told).toMatch(/^Dry the flux/);
    press(" ");
    await screen.findByRole("button", { name: /Flame off/ });
    expect(head()).toBe("Until a bright line runs along the seam; flame off.");
    await waitFor(() => expect(screen.getByText(`Under the flame · ${String(told)}`)).toBeTruthy());
    await waitFor(() => expect(screen.getByText(/since the flame was lit/)).toBeTruthy());
    await waitFor(() => expect(screen.queryByRole("group", { name: /come out/ })).toBe(null));
    press(" ");
    await asked();
    expect(head()).toBe("Flame off. Look at it as it lies, before it is moved.");
    await waitFor(() => expect(screen.getByText(/under the flame/)).toBeTruthy());
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

  it("of a heat is not left before each join has its outcome: the space bar says nothing of it", async () => {
    const { pressed } = serveRun(heat());
    openAt("/run/1");
    await asked();
    press(" ");
    press("1");
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
    await waitFor(() => expect(screen.queryByRole("group", { name: "What can be tried" })).toBe(null));
    await waitFor(() => expect(screen.getByText("Not known yet")).toBeTruthy());
    press("2");
    await screen.findByRole("group", { name: "What can be tried" });
    await waitFor(() =>
      expect(said(pressed)).toEqual([
        { kind: "outcome", turn: "4", join: JOIN, outcome: "opened-another" },
        { kind: "opened", turn: "4", join: "early" },
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
    await waitFor(() => expect(screen.queryByRole("group", { name: "Which has opened?" })).toBe(null));
  });

  const TRIED = {
    way: "flux-and-solder",
    title: "Again, with flux and a touch more solder",
    why: "Solder bridges no gap.",
    joins: [JOIN],
    steps: [3, 4],
  };
  const LEFT = { way: "as-it-is", title: "Leave it as it is", joins: [JOIN] };

  it("that did not come out sound offers what the server knows to fit, each by a key; the space bar takes none", async () => {
    const { pressed } = serveRun(heat(), {
      "POST /api/runs/1/offers": offered("4", [TRIED, LEFT, { way: "rest", title: "Plan the rest anew" }]),
    });
    openAt("/run/1");
    await asked();
    press("3");
    const tries = within(await screen.findByRole("group", { name: "What can be tried" }));
    expect(tries.getAllByRole("button").map((one) => one.textContent)).toEqual([
      "2Again, with flux and a touch more solderSolder bridges no gap.",
      "3Leave it as it is",
    ]);
    press(" ");
    press("2");
    expect(await screen.findByText("second try")).toBeTruthy();
    await waitFor(() => expect(screen.getByText(/lay a touch more solder/)).toBeTruthy());
    await waitFor(() => expect(pressed).toHaveLength(2));
    expect(said(pressed)[1]).toEqual({
      kind: "again",
      turn: "4",
      ways: ["flux-and-solder"],
      joins: [JOIN],
      steps: [3, 4],
    });
  });

  it("that must not be lit as the work stands says why, and no key lights it", async () => {
    const run = runAt("heat");
    // What was to be done before was left out: the server is asked whether the heat may be.
    for (const event of run.events)
      if (event.kind === "next" && event.turn === "3") Object.assign(event, { skipped: true });
    const text = "Water may stand in the drop when heat 1 begins.";
    const never = [{ code: "wet-hollow", text, remedy: "Dry it out first." }];
    let answer = () => {};
    const late = new Promise<object>((known) => {
      answer = () => known({ ...offered("4"), never });
    });
    const { pressed } = serveRun(run, { "POST /api/runs/1/offers": () => late });
    openAt("/run/1");
    await screen.findByRole("button", { name: /The flame is lit/ });
    // A press that comes before the answer is held, and is not done where the answer is no.
    press(" ");
    answer();
    expect((await screen.findByRole("alert")).textContent).toMatch(
      /Dry it out first.*Go back, or plan the rest/,
    );
    expect(screen.getByRole("heading", { level: 1 }).textContent).toBe(text);
    expect(screen.queryByRole("button", { name: /The flame is lit/ })).toBe(null);
    press(" ");
    press("b");
    await waitFor(() => expect(said(pressed)).toEqual([{ kind: "back", turn: "4" }]));
  });

  it("that is left as it is goes on by a key of its own", async () => {
    const { pressed } = serveRun(heat(), { "POST /api/runs/1/offers": offered("4", [TRIED, LEFT]) });
    openAt("/run/1");
    await asked();
    press("2");
    await screen.findByRole("group", { name: "What can be tried" });
    press("3");
    await screen.findByText("step 5 of 15");
    await waitFor(() => expect(said(pressed)).toHaveLength(2));
    expect(said(pressed)[1]).toEqual({ kind: "next", turn: "4", confirmed: false });
  });

  it("puts in steps that no plan has, and stands where it was in the plan", async () => {
    const run = heat();
    const put = { ...run.sheet.steps[1], n: 16, text: "Scrape it bright.", lines: ["Scrape it bright."] };
    const answer = {
      ...offered("4", [{ ...TRIED, steps: [16, 4] }]),
      steps: [put],
      faces: [{ ...run.sheet.faces[1], extra: true }],
    };
    serveRun(run, { "POST /api/runs/1/offers": answer });
    openAt("/run/1");
    await asked();
    press("2");
    await screen.findByRole("group", { name: "What can be tried" });
    press("2");
    expect(await screen.findByRole("heading", { name: "Scrape it bright." })).toBeTruthy();
    await waitFor(() => expect(screen.getByText("step 4 of 15")).toBeTruthy());
    press(" ");
    expect(await screen.findByText("second try")).toBeTruthy();
  });

  it("with no server says what is safe until it answers", async () => {
    const away = () => new Refused("unreachable", 503);
    serveRun(heat(), { "POST /api/runs/1/events": away });
    openAt("/run/1");
    await asked();
    press("2");
    expect(await screen.findByText(/flame off, let it cool in air, and nothing wet/)).toBeTruthy();
    await waitFor(() => expect(screen.queryByRole("group", { name: "What can be tried" })).toBe(null));
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
    await waitFor(() => expect(screen.getByRole("button", { name: /It passes/ })).toBeTruthy());
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
    await waitFor(() => expect(screen.queryByRole("group", { name: "What does not pass" })).toBe(null));
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
    await waitFor(() => expect(screen.queryByRole("group", { name: /What/ })).toBe(null));
    await waitFor(() =>
      expect(said(pressed)).toEqual([
        { kind: "look", turn: "5", check: 1, passes: true },
        { kind: "outcome", turn: "4", join: JOIN, outcome: "flooded" },
      ]),
    );
  });

  it("of looking sets right how a join came out, and offers what fits that", async () => {
    const apart = { way: "apart", title: "Take it apart and set it anew", joins: [JOIN], steps: [3, 4, 5] };
    const { pressed } = serveRun(looked([AT_JOIN, AT_ALL]), {
      "POST /api/runs/1/offers": offered("5", [apart]),
    });
    openAt("/run/1");
    await screen.findByRole("heading", { name: "Stem overlay: is solder all round" });
    press("5");
    await screen.findByRole("heading", { name: "plate: is it flat" });
    press(" ");
    const tries = within(await screen.findByRole("group", { name: "What can be tried" }));
    expect(tries.getAllByRole("button").map((one) => one.textContent)).toEqual([
      "2Take it apart and set it anew",
    ]);
    await waitFor(() => expect(screen.queryByRole("group", { name: "What does not pass" })).toBe(null));
    await waitFor(() => expect(screen.getByText("flux again.")).toBeTruthy());
    press("2");
    await screen.findByText("second try");
    await waitFor(() =>
      expect(said(pressed)).toEqual([
        { kind: "look", turn: "5", check: 1, passes: false },
        { kind: "outcome", turn: "4", join: JOIN, outcome: "moved" },
        { kind: "look", turn: "5", check: 2, passes: true },
        { kind: "again", turn: "5", ways: ["apart"], joins: [JOIN], steps: [3, 4, 5] },
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
    await waitFor(() => expect(screen.getByText("step 3 of 15")).toBeTruthy());
  });
});
