// @vitest-environment happy-dom
import { cleanup, render, screen, waitFor, within } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import type { LogChoices, LogLine, LogSums, RecordView, RunView } from "../../src/api/types";
import { dayOf } from "../../src/log/asking";
import { marksOf, SignsBand } from "../../src/log/SignsBand";
import { sayMonth, sayWait } from "../../src/log/words";
import { sayMinutes } from "../../src/parts/words";
import { openAt, user } from "../app";
import { choose, offeredBy } from "../choose";
import { type Asked, askedFor, Refused, recorded, serve, type Told } from "../wire";

afterEach(cleanup);

const LINES = recorded<LogLine[]>("GET /api/log");
const SAID = recorded<RunView>("GET /api/runs/{key} at heat, said");
const CHOICES = recorded<LogChoices>("GET /api/log/choices");
const NONE: LogSums = {
  times: 0,
  sound: 0,
  joins: [],
  months: [],
  torches: [],
  heats: [],
  steps: [],
  without: [],
};
const QUIET = { "GET /api/torches": [], "GET /api/log/sums": NONE, "GET /api/log/choices": CHOICES };
const asked = (name = "words") =>
  askedFor("GET /api/log").map(({ path }) => new URLSearchParams(path.split("?")[1]).get(name));

describe("the log", () => {
  it("says how it fills where there is no run yet", async () => {
    serve({ "GET /api/log": [], ...QUIET });
    openAt("/log");
    expect(await screen.findByText(/No run yet/)).toBeTruthy();
  });

  it("tells each run with its outcomes and notes", async () => {
    const [line] = LINES as [LogLine];
    const outcome = line.outcomes[0] as LogLine["outcomes"][number];
    const poor = {
      ...outcome,
      outcome: "short",
      words: "Short: a gap left",
      sound: false,
      count: 2,
    } as typeof outcome;
    serve({
      "GET /api/log": [
        { ...line, notes: 1 },
        { ...line, id: 2, notes: 3, outcomes: [outcome, poor] },
      ],
      ...QUIET,
    });
    openAt("/log");
    const rows = (await screen.findAllByRole("link", { name: /Reed brooch/ })).map((one) => one.textContent);
    expect(rows[0]).toMatch(/going, 3 of 15 steps1 × flowed all along1 note$/);
    expect(rows[1]).toMatch(/1 × flowed all along2 × short: a gap left3 notes$/);
  });

  it("is asked once when the typing pauses, and says what it did not find", async () => {
    serve({
      ...QUIET,
      "GET /api/log": ({ path }: { path: string }) => (path.endsWith("words=") ? LINES : []),
    });
    openAt("/log");
    await user.type(
      await screen.findByPlaceholderText("What went well with medium on thin wire?"),
      "flooded",
    );
    expect(await screen.findByText("No run holds all of “flooded”.")).toBeTruthy();
    expect(asked()).toEqual(["", "flooded"]);
  });

  it("gives the outcomes of what was found as a table, and none of nothing", async () => {
    serve({
      "GET /api/log": ({ path }: { path: string }) => (path.includes("nobody") ? [] : LINES),
      ...QUIET,
    });
    openAt("/log");
    const table = () => screen.queryByRole("link", { name: "Outcomes as CSV" })?.getAttribute("href");
    await waitFor(() => expect(table()).toBe("/api/log/outcomes.csv?"));
    await user.type(await screen.findByRole("searchbox"), "reed & brooch");
    await waitFor(() => expect(table()).toBe("/api/log/outcomes.csv?words=reed+%26+brooch"));
    await user.clear(await screen.findByRole("searchbox"));
    await user.type(await screen.findByRole("searchbox"), "nobody");
    await waitFor(() => expect(table()).toBeUndefined());
  });

  it("opens a run: each step with what came of it, and the way back to it while it goes", async () => {
    serve({ "GET /api/log": LINES, ...QUIET, "GET /api/runs/1": SAID });
    const { where } = openAt("/log");
    await user.click(await screen.findByRole("link", { name: /Reed brooch/ }));
    await waitFor(() => expect(where()).toBe("/log/1"));
    await waitFor(() => expect(screen.getAllByRole("listitem")).toHaveLength(SAID.records.length));
    const steps = screen.getAllByRole("listitem").map((one) => one.textContent ?? "");
    expect(steps[3]).toMatch(/Under the flame.*Stem overlay: flowed all along/);
    await waitFor(() =>
      expect(screen.getByRole("link", { name: "go on with it" }).getAttribute("href")).toBe("/run/1"),
    );
  });

  it("shows a note and what was skipped", async () => {
    const records = SAID.records.map((record, n) =>
      n === 1 ? { ...record, skipped: true } : n === 2 ? { ...record, note: "flux was old" } : record,
    );
    serve({ "GET /api/runs/1": { ...SAID, records } });
    openAt("/log/1");
    await waitFor(() => expect(screen.getAllByRole("listitem")).toHaveLength(records.length));
    const steps = screen.getAllByRole("listitem");
    expect(within(steps[1] as HTMLElement).getByText("skipped")).toBeTruthy();
    expect(within(steps[2] as HTMLElement).getByText("flux was old")).toBeTruthy();
  });
});

const SUMS: LogSums = {
  times: 50,
  sound: 41,
  joins: [
    { kind: "tee", grade: "easy", times: 30, sound: 27 },
    { kind: "ring-open", grade: "hard", times: 20, sound: 14 },
  ],
  months: [
    { month: "2026-01-01", sound: 30, unsound: 3, solder_mg: { easy: 400, hard: 900 } },
    { month: "2026-02-01", sound: 11, unsound: 6, solder_mg: { easy: 100 } },
  ],
  torches: [{ torch: "butane-kitchen", month: "2026-01-01", ratio: 1.2, heats: 9 }],
  heats: [
    { run: 1, torch: "butane-kitchen", at: "2026-01-05T10:00:00Z", told_s: 40, took_s: 52, sound: true },
  ],
  steps: [{ kind: "pickle", times: 12, minutes_each: 7.25 }],
  without: [],
};

describe("what the log is asked", () => {
  const open = async () => {
    serve({ ...QUIET, "GET /api/log": LINES, "GET /api/log/sums": SUMS });
    openAt("/log");
    await screen.findByText(/sound of 50 joins/);
  };

  it("is answered in one line and in pictures", async () => {
    await open();
    await waitFor(() =>
      expect(screen.getByText(/sound of 50 joins/).textContent).toBe("82 % sound of 50 joins"),
    );
    const table = within(screen.getByRole("region", { name: "Sound, by join and solder" }));
    expect(table.getAllByRole("row").map((row) => row.textContent)).toEqual([
      "hardeasy",
      "tee90 %30",
      "ring open70 %20",
    ]);
    expect(screen.getByRole("region", { name: "Solder laid" }).textContent).toMatch(
      /1\.4 g.*hard900 mg.*easy500 mg/,
    );
    expect(screen.getByRole("region", { name: "Minutes for a step" }).textContent).toMatch(
      /pickle7\.3 min12 ×/,
    );
    expect(document.querySelector("circle title")?.textContent === "40 s foretold, 52 s taken").toBeTruthy();
    await waitFor(() =>
      expect(screen.getByRole("region", { name: "The torch over the months" })).toBeTruthy(),
    );
  });

  it("is chosen from what is in it, in both questions, and left off at once", async () => {
    await open();
    await choose(screen.getByLabelText("Came out"), "went wrong");
    await waitFor(() => expect(asked("outcome").at(-1)).toBe("wrong"));
    expect(askedFor("GET /api/log/sums").at(-1)?.path).toContain("outcome=wrong");
    await choose(screen.getByLabelText("Since"), "3 months");
    await waitFor(() => expect(asked("since").at(-1)).toBe(dayOf("3")));
    await waitFor(() => expect(screen.queryByRole("combobox", { name: "Metal" })).toBe(null));
    await user.click(await screen.findByRole("button", { name: "Ask for everything" }));
    await waitFor(() => expect(asked("outcome").at(-1)).toBe(null));
    await waitFor(() => expect(screen.queryByRole("button", { name: "Ask for everything" })).toBe(null));
  });

  it("tells which word to leave out where nothing holds them all", async () => {
    const sums = ({ path }: { path: string }) =>
      path.includes("thin") ? { ...NONE, without: [{ word: "thin wire", times: 12 }] } : SUMS;
    serve({ ...QUIET, "GET /api/log": [], "GET /api/log/sums": sums });
    openAt("/log");
    await user.type(await screen.findByRole("searchbox"), "What of medium on thin wire?");
    await user.click(await screen.findByRole("button", { name: "Without “thin wire”: 12 joins" }));
    await waitFor(() =>
      expect((screen.getByRole("searchbox") as HTMLInputElement).value).toBe("What of medium on ?"),
    );
    await screen.findByText(/sound of 50 joins/);
  });

  it.each([
    ["", undefined],
    ["1", "2026-02-28"],
    ["12", "2025-03-28"],
  ] as const)("of %s months begins on a day", (months, day) => {
    expect(dayOf(months, new Date("2026-03-28T11:00:00Z"))).toBe(day);
  });

  it.each([
    ["10:03", "out 4 min early"],
    ["10:06", "out 1 min early"],
    ["10:08", ""],
    ["10:14", ""],
    ["10:46", "5 times too long"],
  ])("of a pot that was left at %s: %s", (left, words) => {
    const record = {
      step: { kind: "pickle" },
      started_at: "2026-03-01T10:00:00Z",
      ended_at: `2026-03-01T${left}:00Z`,
      due_low: "2026-03-01T10:07:00Z",
      due_high: "2026-03-01T10:10:00Z",
    } as RecordView;
    expect(sayWait(record)).toBe(words);
    expect(sayWait({ ...record, step: { kind: "heat" } } as RecordView)).toBe("");
  });

  it("is told in months and minutes that can be read", () => {
    expect([sayMonth("2026-01-01"), sayMonth("2026-09-01")]).toEqual(["Jan 26", "Sep"]);
    expect([sayMinutes(0.5), sayMinutes(2.5), sayMinutes(45.2)]).toEqual(["30 s", "2.5 min", "45 min"]);
  });
});

describe("the signs of a heat in the log", () => {
  const at = (s: number) => new Date(Date.UTC(2026, 2, 1, 10) + 1000 * s).toISOString();
  const stage = (see: string, likely_s: number) => ({
    see,
    low_s: likely_s - 5,
    likely_s,
    high_s: likely_s + 10,
  });
  const signs = [
    { stage: 0, at: at(0) },
    { stage: 1, at: at(24) },
  ];
  const step = { kind: "heat", stages: [stage("crust", 20), stage("runs", 30)] };

  it("stand beside what was foretold, each counted from the lit flame", () => {
    expect(marksOf({ step, signs } as RecordView)).toEqual([
      { see: "crust", low: 15, likely: 20, high: 30, pressed: 24 },
      { see: "runs", low: 40, likely: 50, high: 70, pressed: null },
    ]);
  });

  it.each([
    [{ step: { kind: "heat", stages: [] }, signs }],
    [{ step, signs: [] }],
    [{ step: { kind: "cool" }, signs }],
  ])("are not there for %j", (record) => {
    expect(marksOf(record as unknown as RecordView)).toEqual([]);
  });

  it("are told in words", () => {
    render(<SignsBand record={{ step, signs } as RecordView} />);
    expect([...document.querySelectorAll("title")].map((one) => one.textContent)).toEqual([
      "crust: foretold after 20 s, pressed after 24 s",
      "runs: foretold after 50 s, not pressed",
    ]);
  });
});

describe("runs from a file", () => {
  const given = async (text: string, take: Told = { id: 5 }) => {
    serve({ ...QUIET, "GET /api/log": [], "POST /api/runs/file": take });
    openAt("/log");
    await screen.findByText(/No run yet/);
    await user.upload(await screen.findByLabelText("A file of runs"), new File([text], "runs.json"));
  };
  const file = (...runs: object[]) => JSON.stringify({ format: "eskel-log/1", runs });

  it("come in one after another, and one that is broken is told by its row", async () => {
    const take = ({ body }: Asked) =>
      (body as { piece_name: string }).piece_name === "Bent"
        ? new Refused("out-of-range", 422, "began_ms", "nothing in a log is still to come")
        : { id: 1 };
    await given(file({ piece_name: "Straight" }, { piece_name: "Bent" }, {}), take);
    expect(await screen.findByText("2 of 3 runs taken in")).toBeTruthy();
    expect(screen.getByText(/was left out/).textContent).toMatch(
      /^2\. Bent was left out: began_ms: nothing in a log is still to come/,
    );
    expect(askedFor("POST /api/runs/file")).toHaveLength(3);
    await user.click(await screen.findByRole("button", { name: "Close" }));
    await waitFor(() => expect(screen.queryByText(/taken in/)).toBe(null));
  });

  it.each([
    ["{", /is no JSON/],
    ["[]", /is no file of runs/],
    ['{"format": "eskel-log/2", "runs": []}', /is no file of runs/],
  ])("are not looked for in %s", async (text, words) => {
    await given(text);
    expect(await screen.findByText(words)).toBeTruthy();
    expect(askedFor("POST /api/runs/file")).toEqual([]);
  });

  it("come out of a table too, part by part: what was left out is told by its row", async () => {
    const wrong = {
      code: "out-of-range",
      path: "row 3, said",
      value: "noon",
      rule: "a time",
      remedy: "Write it so.",
    };
    serve({
      ...QUIET,
      "GET /api/log": [],
      "POST /api/runs/table": ({ body }: Asked) =>
        (body as { skip: number }).skip === 0
          ? { of: 2, next: 1, rows: [{ name: "Ring, 2026-03-01", faults: [] }] }
          : { of: 2, next: null, rows: [{ name: "Drop, 2026-03-02", faults: [wrong] }] },
    });
    openAt("/log");
    await screen.findByText(/No run yet/);
    await user.upload(
      await screen.findByLabelText("A file of runs"),
      new File(["run,piece"], "outcomes.csv"),
    );
    expect(await screen.findByText("1 of 2 runs taken in")).toBeTruthy();
    await waitFor(() =>
      expect(screen.getByText(/was left out/).textContent).toMatch(/^2\. Drop.*row 3, said: a time/),
    );
    expect(askedFor("POST /api/runs/table").map(({ body }) => body)).toEqual([
      { text: "run,piece", skip: 0 },
      { text: "run,piece", skip: 1 },
    ]);
  });

  it("of a table that is far too large are not read, and one that is refused says why", async () => {
    serve({
      ...QUIET,
      "GET /api/log": [],
      "POST /api/runs/table": new Refused("too-large", 422, "text", "a table is shorter"),
    });
    openAt("/log");
    await screen.findByText(/No run yet/);
    const large = new File(["run"], "outcomes.csv");
    Object.defineProperty(large, "size", { value: 6e6 });
    await user.upload(await screen.findByLabelText("A file of runs"), large);
    expect(await screen.findByText(/is 6 MB: a table is at most 5 MB/)).toBeTruthy();
    expect(askedFor("POST /api/runs/table")).toEqual([]);
    await user.upload(await screen.findByLabelText("A file of runs"), new File(["run"], "outcomes.csv"));
    expect(await screen.findByText(/a table is shorter/)).toBeTruthy();
  });

  it("of many go out in several files", async () => {
    const told = { ...CHOICES, runs: 1_200, runs_in_file: 500 };
    serve({ ...QUIET, "GET /api/log": LINES, "GET /api/log/choices": told });
    openAt("/log");
    const menu = await screen.findByRole("button", { name: "Runs as JSON" });
    expect(offeredBy(menu).map(({ words }) => words)).toEqual([
      "1 to 500, the newest",
      "501 to 1000",
      "1001 to 1200",
    ]);
  });

  it("are not read where the file is far too large", async () => {
    serve({ ...QUIET, "GET /api/log": [] });
    openAt("/log");
    await screen.findByText(/No run yet/);
    const large = new File(["{}"], "runs.json");
    Object.defineProperty(large, "size", { value: 300e6 });
    await user.upload(await screen.findByLabelText("A file of runs"), large);
    expect(await screen.findByText(/is 300 MB: a file of runs is at most 200 MB/)).toBeTruthy();
  });
});

describe("photographs of a run", () => {
  const photo = { id: 3, turn: "4", added_at: "2026-03-01T10:00:00Z", width: 1600, height: 1200 };
  const opened = async (own: Record<string, Told>) => {
    serve({ "GET /api/runs/1": SAID, ...own });
    openAt("/log/1");
    await screen.findByRole("region", { name: "Photographs" });
  };

  it("are added as they are where the device cannot make them smaller, and seen at once", async () => {
    let kept: object[] = [];
    await opened({
      "GET /api/runs/1/photos": () => kept,
      "POST /api/runs/1/photos": () => {
        kept = [photo];
        return photo;
      },
    });
    await user.upload(
      screen.getByLabelText("A photograph"),
      new File(["abc"], "seam.jpg", { type: "image/jpeg" }),
    );
    const image = await screen.findByRole("img", { name: /^Taken 1 Mar 2026/ });
    expect(image.getAttribute("src")).toBe("/api/photos/3.jpg?small=true");
    expect(askedFor("POST /api/runs/1/photos")[0]?.body).toEqual({ turn: SAID.turn, image: btoa("abc") });
    await waitFor(() => expect(screen.getByRole("button", { name: "Another photograph" })).toBeTruthy());
  });

  it("that are none are told, and nothing is added", async () => {
    await opened({
      "GET /api/runs/1/photos": [],
      "POST /api/runs/1/photos": new Refused("not-an-image", 422, "image", "a photograph is one of JPEG"),
    });
    await user.upload(
      screen.getByLabelText("A photograph"),
      new File(["abc"], "seam.png", { type: "image/png" }),
    );
    expect((await screen.findByRole("alert")).textContent).toMatch(/a photograph is one of JPEG/);
    await waitFor(() => expect(screen.getByRole("button", { name: "Add a photograph" })).toBeTruthy());
  });

  it("are seen large, and taken away", async () => {
    let kept = [photo];
    await opened({
      "GET /api/runs/1/photos": () => kept,
      "DELETE /api/photos/3": () => {
        kept = [];
        return null;
      },
    });
    await user.click(await screen.findByRole("button", { name: /^Taken/ }));
    const told = within(await screen.findByRole("dialog"));
    expect(told.getByRole("img").getAttribute("src")).toBe("/api/photos/3.jpg");
    await user.click(told.getByRole("button", { name: "Take it away" }));
    await waitFor(() => expect(screen.queryByRole("button", { name: /^Taken/ })).toBe(null));
  });
});
