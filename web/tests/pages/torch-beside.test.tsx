// @vitest-environment happy-dom
import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { BenchView, Rail } from "../../src/api/types";
import { openAt, user } from "../app";
import { elsewhere, newDevice, runAt, said, serveRun } from "../theRun";
import { askedFor, Refused, recorded, serve, type Told } from "../wire";

beforeEach(newDevice);
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

const press = (key: string) => fireEvent.keyDown(document.body, { key });
/** A heat whose flame was lit and put out: how it came out is asked. */
const heat = () => {
  const run = runAt("heat");
  run.events.push(elsewhere(run, { kind: "lit", turn: "4" }));
  run.events.push(elsewhere(run, { kind: "off", turn: "4" }));
  return run;
};

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
    await waitFor(() => expect(screen.queryByRole("group", { name: "Done of those alike" })).toBeNull());
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

describe("a size that was measured", () => {
  it.each(["{Backspace}{Enter}", "0{Enter}"])("is taken back by %s", async (typed) => {
    const run = runAt("work", { target: { mm: 17.3, within_mm: 0.1, what: "inside" } });
    run.events.push(elsewhere(run, { kind: "measure", turn: "2", what: "size_mm", value: 17.35 }));
    const { pressed } = serveRun(run);
    openAt("/run/1");
    await screen.findByText("as it is to be");
    const field = screen.getByLabelText<HTMLInputElement>("Measured");
    expect(field.value).toBe("17.35");
    await user.tripleClick(field);
    await user.keyboard(typed);
    await waitFor(() => expect(said(pressed)).toEqual([{ kind: "undo", of: run.events.at(-1)?.id }]));
    await waitFor(() => expect(field.value).toBe(""));
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
    await waitFor(() => expect(screen.queryByLabelText("Note")).toBeNull());
    await waitFor(() => expect(screen.getByText("step 2 of 15")).toBeTruthy());
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
    await user.click(await within(ask).findByRole("button", { name: "Stop the run" }));
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
    await waitFor(() => expect(screen.getByText("step 3 of 15")).toBeTruthy());
    press(" ");
    await screen.findByText("step 4 of 15");
    await waitFor(() => expect(screen.queryByText(/Another screen had gone on before/)).toBeNull());
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
    await waitFor(() => expect(screen.getByTestId("big-timer").textContent).toBe(shown));
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
    await waitFor(() => expect(screen.getByText("Out before its time")).toBeTruthy());
  });
});

describe("a run that is over", () => {
  const over = (weighs_g: number | null, own: Record<string, Told> = {}) => {
    const run = runAt("work");
    run.events.push(elsewhere(run, { kind: "stop", turn: "2" }));
    run.sheet.weighs_g = weighs_g;
    return serveRun(run, own);
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

  it("is weighed in what the house weighs in, and kept in grams", async () => {
    const bench = recorded<BenchView>("GET /api/bench");
    const troy = { ...bench, house: { ...bench.house, mass: "troy" } };
    const { pressed } = over(15.5517, { "GET /api/bench": troy });
    openAt("/run/1");
    await write("It weighs, dwt", "9");
    expect(await screen.findByText("10.00 dwt were cut and laid: 1.00 dwt filed away")).toBeTruthy();
    await waitFor(() => expect(said(pressed)).toMatchObject([{ what: "mass_g", value: 13.9965 }]));
    await waitFor(() => expect(screen.getByLabelText<HTMLInputElement>("It weighs, dwt").value).toBe("9"));
  });

  it("takes back what is emptied, and compares with nothing that is not known", async () => {
    const { pressed } = over(null);
    openAt("/run/1");
    await write("It weighs, g", "12.5");
    await write("What worked", "slow");
    await waitFor(() => expect(pressed).toHaveLength(2));
    await waitFor(() => expect(screen.queryByText(/were cut and laid/)).toBe(null));
    await user.clear(await screen.findByLabelText("What worked"));
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
