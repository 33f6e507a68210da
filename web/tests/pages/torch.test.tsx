// @vitest-environment happy-dom
import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import type { RunView } from "../../src/api/types";
import { openAt, user } from "../app";
import { type Asked, askedFor, Refused, recorded, serve } from "../wire";

afterEach(cleanup);

const PREPARE = recorded<RunView>("GET /api/runs/{key} at prepare");
const WORK = recorded<RunView>("GET /api/runs/{key} at work");
const HEAT = recorded<RunView>("GET /api/runs/{key} at heat");
const SAID = recorded<RunView>("GET /api/runs/{key} at heat, said");
const JOIN = "stem-on";
const press = (key: string) => fireEvent.keyDown(document.body, { key });
const body = (question: string, n = 0) => askedFor(question)[n]?.body;

describe("a step at the torch", () => {
  it("tells the whole step: its words, what to look for, how far the run is", async () => {
    serve({ "GET /api/runs/1": HEAT });
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
    serve({ "GET /api/runs/1": WORK, "POST /api/runs/1/advance": HEAT });
    openAt("/run/1");
    await screen.findByText(/^step \d+ of 15$/);
    press(" ");
    await screen.findByText("step 4 of 15");
    expect(body("POST /api/runs/1/advance")).toEqual({
      at: WORK.position,
      confirmed: false,
      skipped: false,
    });
  });

  it("that must be read is left by saying so", async () => {
    const step = { ...PREPARE.step, kind: "prepare", confirm: true } as RunView["step"];
    serve({ "GET /api/runs/1": { ...PREPARE, step }, "POST /api/runs/1/advance": WORK });
    openAt("/run/1");
    await user.click(await screen.findByRole("button", { name: /I have read it/ }));
    await waitFor(() => expect(body("POST /api/runs/1/advance")).toMatchObject({ confirmed: true }));
  });

  it("of a heat is not left before each join has its outcome: the space bar says that it flowed", async () => {
    serve({ "GET /api/runs/1": HEAT, "POST /api/runs/1/outcome": SAID });
    openAt("/run/1");
    await screen.findByRole("group", { name: "How did Stem overlay come out?" });
    press(" ");
    await waitFor(() =>
      expect(body("POST /api/runs/1/outcome")).toEqual({ at: 4, join: JOIN, outcome: "flowed" }),
    );
    await screen.findByRole("button", { name: /Next/ });
    expect(askedFor("POST /api/runs/1/advance")).toEqual([]);
  });

  it.each(HEAT.words.slice(1).map((word) => [word.key, word.outcome] as const))(
    "%s says %s",
    async (key, outcome) => {
      serve({ "GET /api/runs/1": HEAT, "POST /api/runs/1/outcome": SAID });
      openAt("/run/1");
      await screen.findByRole("group", { name: /Stem overlay/ });
      press(key);
      await waitFor(() => expect(body("POST /api/runs/1/outcome")).toMatchObject({ join: JOIN, outcome }));
    },
  );

  it("takes the outcome back first, and only then the step", async () => {
    serve({ "GET /api/runs/1": SAID, "POST /api/runs/1/outcome/back": HEAT, "POST /api/runs/1/back": WORK });
    openAt("/run/1");
    await screen.findByRole("button", { name: /Next/ });
    press("b");
    await screen.findByRole("group", { name: /Stem overlay/ });
    press("b");
    await waitFor(() => expect(askedFor("POST /api/runs/1/back")).toHaveLength(1));
    expect(askedFor("POST /api/runs/1/outcome/back")).toHaveLength(1);
  });

  it("that did not come out sound offers what fits, best first, each by a key; on takes it as it is", async () => {
    const ways = [
      { way: "pickle-first", offered: "Into the pot first, then again", told: "" },
      { way: "flux-and-solder", offered: "Again, with flux and a touch more solder", told: "" },
    ];
    const told = ["Clean it, flux it anew."];
    serve({
      "GET /api/runs/1": { ...SAID, ways },
      "POST /api/runs/1/again": { ...PREPARE, again: 2, told },
    });
    openAt("/run/1");
    const offered = within(await screen.findByRole("group", { name: "What can be tried" }));
    expect(offered.getAllByRole("button").map((one) => one.textContent)).toEqual([
      "2Into the pot first, then again",
      "3Again, with flux and a touch more solder",
    ]);
    expect(screen.getByRole("button", { name: /Take it as it is/ })).toBeTruthy();
    press("3");
    await waitFor(() => expect(body("POST /api/runs/1/again")).toEqual({ at: 4, ways: ["flux-and-solder"] }));
    expect(await screen.findByText("second try")).toBeTruthy();
    expect(screen.getByText("Clean it, flux it anew.")).toBeTruthy();
    expect(askedFor("POST /api/runs/1/outcome")).toEqual([]);
  });

  it("of looking passes by the space bar, or sends back to a heat by a key", async () => {
    const step = { ...WORK.step, kind: "inspect", checks: [], heats: [1, 2] } as unknown as RunView["step"];
    const back_to = [
      { heat_no: 1, title: "Rim" },
      { heat_no: 2, title: "Collar seam, Foot" },
    ];
    serve({
      "GET /api/runs/1": { ...WORK, step, back_to },
      "POST /api/runs/1/again": { ...PREPARE, again: 2 },
    });
    openAt("/run/1");
    const group = within(await screen.findByRole("group", { name: "What does not pass" }));
    expect(group.getAllByRole("button").map((one) => one.textContent)).toEqual([
      "2Again: Rim",
      "3Again: Collar seam, Foot",
    ]);
    expect(screen.getByRole("button", { name: /It passes/ })).toBeTruthy();
    press("3");
    await waitFor(() =>
      expect(body("POST /api/runs/1/again")).toEqual({ at: WORK.position, ways: [], heat_no: 2 }),
    );
    expect(await screen.findByText("second try")).toBeTruthy();
  });

  it("goes back no further than the first", async () => {
    serve({ "GET /api/runs/1": { ...PREPARE, position: 1 }, "POST /api/runs/1/back": PREPARE });
    openAt("/run/1");
    const back = await screen.findByRole("button", { name: /Back/ });
    expect(back.hasAttribute("disabled")).toBe(true);
    press("b");
    press("n");
    await screen.findByLabelText("Note");
    expect(askedFor("POST /api/runs/1/back")).toEqual([]);
  });

  it("is skipped by a key of its own, never by the space bar", async () => {
    serve({ "GET /api/runs/1": WORK, "POST /api/runs/1/advance": HEAT });
    openAt("/run/1");
    await screen.findByRole("button", { name: /Skip/ });
    press("s");
    await waitFor(() => expect(body("POST /api/runs/1/advance")).toMatchObject({ skipped: true }));
  });
});

describe("what is alike at the torch", () => {
  const five = (tally: number): RunView => ({
    ...WORK,
    step: { ...WORK.step, alike: 5 },
    records: WORK.records.map((one) => (one.n === WORK.position ? { ...one, tally } : one)),
  });

  it("is counted by a key, every press is kept, and no further than there are", async () => {
    let kept = 3;
    serve({
      "GET /api/runs/1": five(3),
      "POST /api/runs/1/tally": (asked: Asked) => {
        kept = (asked.body as { done: number }).done;
        return five(kept);
      },
    });
    openAt("/run/1");
    const tally = within(await screen.findByRole("group", { name: "Done of those alike" }));
    expect(tally.getByRole("status").textContent).toBe("3 of 5");
    press("t");
    press("t");
    press("t");
    expect(tally.getByRole("status").textContent).toBe("5 of 5");
    await waitFor(() => expect(askedFor("POST /api/runs/1/tally")).toHaveLength(2));
    expect(askedFor("POST /api/runs/1/tally").map((one) => one.body)).toEqual([
      { at: WORK.position, done: 4 },
      { at: WORK.position, done: 5 },
    ]);
    await user.click(tally.getByRole("button", { name: "One less" }));
    await waitFor(() => expect(kept).toBe(4));
  });

  it("has no tally where there is one", async () => {
    serve({ "GET /api/runs/1": WORK });
    openAt("/run/1");
    await screen.findByText(/^step \d+ of 15$/);
    expect(screen.queryByRole("group", { name: "Done of those alike" })).toBeNull();
  });
});

describe("a size that is checked", () => {
  const sized = (measured_mm: number | null): RunView => ({
    ...WORK,
    step: {
      ...WORK.step,
      kind: "work",
      target: { mm: 17.3, within_mm: 0.1, what: "inside" },
    } as RunView["step"],
    records: WORK.records.map((one) => (one.n === WORK.position ? { ...one, measured_mm } : one)),
  });

  it.each([
    ["17.35{Enter}", 17.35, "as it is to be"],
    ["17.6{Enter}", 17.6, "0.30 mm too large"],
    ["17{Enter}", 17, "0.30 mm too small"],
  ])("is written down and judged: %s", async (typed, mm, words) => {
    serve({
      "GET /api/runs/1": sized(null),
      "POST /api/runs/1/measure": (asked: Asked) => sized((asked.body as { mm: number }).mm),
    });
    openAt("/run/1");
    const field = await screen.findByLabelText("Measured");
    await user.clear(field);
    await user.type(field, typed);
    expect(await screen.findByText(words)).toBeTruthy();
    expect(body("POST /api/runs/1/measure")).toEqual({ at: WORK.position, mm });
  });
});

describe("a note at the torch", () => {
  it("is written by n, and the step stays; what is typed is no key", async () => {
    serve({ "GET /api/runs/1": WORK, "POST /api/runs/1/note": WORK });
    openAt("/run/1");
    await screen.findByRole("button", { name: /Note/ });
    press("n");
    await user.type(await screen.findByLabelText("Note"), "sank by b 3{Enter}");
    await waitFor(() =>
      expect(body("POST /api/runs/1/note")).toEqual({ at: WORK.position, note: "sank by b 3", was: "" }),
    );
    expect(screen.queryByLabelText("Note")).toBeNull();
    expect(askedFor("POST /api/runs/1/back")).toEqual([]);
  });

  it("is let go by Escape", async () => {
    serve({ "GET /api/runs/1": WORK, "POST /api/runs/1/note": WORK });
    openAt("/run/1");
    await screen.findByRole("button", { name: /Note/ });
    press("n");
    await user.type(await screen.findByLabelText("Note"), "never mind{Escape}");
    await waitFor(() => expect(screen.queryByLabelText("Note")).toBeNull());
    expect(askedFor("POST /api/runs/1/note")).toEqual([]);
  });

  it("waits for a server that is away, and says so", async () => {
    let away = true;
    const note = ({ body: sent }: Asked) => (away ? new Refused("database-away", 503) : { ...WORK, sent });
    serve({ "GET /api/runs/1": WORK, "POST /api/runs/1/note": note });
    openAt("/run/1");
    await screen.findByRole("button", { name: /Note/ });
    press("n");
    await user.type(await screen.findByLabelText("Note"), "kept{Enter}");
    expect(await screen.findByText(/it is tried again until it does/)).toBeTruthy();
    away = false;
    await waitFor(() => expect(askedFor("POST /api/runs/1/note")).toHaveLength(2), { timeout: 4_000 });
    await waitFor(() => expect(screen.queryByText(/it is tried again/)).toBeNull());
  });
});

describe("a run", () => {
  it("is stopped only after it was asked", async () => {
    const over = { ...HEAT, state: "stopped" } as RunView;
    serve({ "GET /api/runs/1": HEAT, "POST /api/runs/1/stop": over });
    openAt("/run/1");
    await user.click(await screen.findByRole("button", { name: "Stop" }));
    const ask = await screen.findByRole("dialog");
    expect(ask.contains(document.activeElement)).toBe(true);
    fireEvent.keyDown(document.activeElement ?? document.body, { key: "2" });
    await user.click(within(ask).getByRole("button", { name: "Stop the run" }));
    expect(await screen.findByText("The run of Reed brooch was stopped.")).toBeTruthy();
    expect(body("POST /api/runs/1/stop")).toEqual({ at: 4 });
    expect(askedFor("POST /api/runs/1/outcome")).toEqual([]);
  });

  it("that has gone on elsewhere is shown as it stands, with what was refused", async () => {
    let moved = false;
    serve({
      "GET /api/runs/1": () => (moved ? HEAT : WORK),
      "POST /api/runs/1/advance": () => {
        moved = true;
        return new Refused("clash", 409, "at", "the step is the one that the run stands at");
      },
    });
    openAt("/run/1");
    await screen.findByRole("button", { name: /Next/ });
    press(" ");
    expect(await screen.findByText(/the step is the one that the run stands at/)).toBeTruthy();
    await screen.findByText("step 4 of 15");
  });

  it("that cannot be read says where it lies, and can be stopped from there", async () => {
    const rail = recorded<{ now: string; entries: unknown[] }>("GET /api/rail");
    serve({
      "GET /api/rail": rail,
      "GET /api/pieces": [],
      "GET /api/runs/1": new Refused("unreadable", 409, "plan.steps[2].kind"),
      "POST /api/runs/1/stop": {},
    });
    const { where } = openAt("/run/1");
    expect(await screen.findByText(/plan\.steps\[2\]\.kind/)).toBeTruthy();
    await user.click(await screen.findByRole("button", { name: "Stop this run" }));
    await waitFor(() => expect(where()).toBe("/work"));
    expect(body("POST /api/runs/1/stop")).toEqual({ at: 4 });
  });

  it("is left running, and stands in the rail", async () => {
    const rail = recorded<{ now: string; entries: unknown[] }>("GET /api/rail");
    serve({ "GET /api/runs/1": HEAT, "GET /api/rail": rail, "GET /api/pieces": [] });
    const { where } = openAt("/run/1");
    await user.click(await screen.findByRole("button", { name: "Leave it running" }));
    await waitFor(() => expect(where()).toBe("/work"));
    const strip = within(screen.getByRole("complementary", { name: "Running now" }));
    expect((await strip.findByRole("link")).textContent).toMatch(/^Reed brooch at the torchstep 4 of 15/);
  });
});

describe("a pot's timer", () => {
  const at = (seconds: number) => new Date(Date.now() + seconds * 1000).toISOString();
  const cooling = (low: number, high: number): RunView => ({
    ...HEAT,
    now: at(0),
    step: { ...HEAT.step, kind: "pickle" } as RunView["step"],
    records: HEAT.records.map((record) =>
      record.n === HEAT.position ? { ...record, due_low: at(low), due_high: at(high) } : record,
    ),
  });

  it.each([
    [300, 600, "5:00", /then look; at the latest in (10:00|9:5\d)/],
    [-60, 240, "4:00", /may come out/],
    [-600, -60, "1:00", /over its time/],
  ])("from %i to %i s shows %s", async (low, high, shown, words) => {
    serve({ "GET /api/runs/1": cooling(low, high) });
    openAt("/run/1");
    expect(await screen.findByText(words)).toBeTruthy();
    const seconds = screen.getByTestId("big-timer").textContent ?? "";
    const [minutes, rest] = seconds
      .replace("−", "-")
      .split(":")
      .map((one) => Math.abs(Number(one)));
    const [wanted, more] = shown.split(":").map(Number);
    const off = (minutes ?? 0) * 60 + (rest ?? 0) - ((wanted ?? 0) * 60 + (more ?? 0));
    expect(Math.abs(off)).toBeLessThanOrEqual(3);
  });
});
