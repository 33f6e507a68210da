// @vitest-environment happy-dom
import { cleanup, screen, waitFor, within } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import type { LogLine, RunView } from "../../src/api/types";
import { openAt, user } from "../app";
import { askedFor, recorded, serve } from "../wire";

afterEach(cleanup);

const LINES = recorded<LogLine[]>("GET /api/log");
const SAID = recorded<RunView>("GET /api/runs/{key} at heat, said");
const asked = () =>
  askedFor("GET /api/log").map(({ path }) => new URLSearchParams(path.split("?")[1]).get("words"));

describe("the log", () => {
  it("says how it fills where there is no run yet", async () => {
    serve({ "GET /api/log": [], "GET /api/torches": [] });
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
      "GET /api/torches": [],
    });
    openAt("/log");
    const rows = (await screen.findAllByRole("link", { name: /Reed brooch/ })).map((one) => one.textContent);
    expect(rows[0]).toMatch(/going, 3 of 15 steps1 × flowed all along1 note$/);
    expect(rows[1]).toMatch(/1 × flowed all along2 × short: a gap left3 notes$/);
  });

  it("is asked once when the typing pauses, and says what it did not find", async () => {
    serve({ "GET /api/log": ({ path }: { path: string }) => (path.endsWith("words=") ? LINES : []) });
    openAt("/log");
    await user.type(await screen.findByPlaceholderText("a piece, a note, an outcome"), "flooded");
    expect(await screen.findByText("No run holds “flooded”.")).toBeTruthy();
    expect(asked()).toEqual(["", "flooded"]);
  });

  it("gives the outcomes of what was found as a table, and none of nothing", async () => {
    serve({
      "GET /api/log": ({ path }: { path: string }) => (path.includes("nobody") ? [] : LINES),
      "GET /api/torches": [],
    });
    openAt("/log");
    const table = () => screen.queryByRole("link", { name: "Outcomes as CSV" })?.getAttribute("href");
    await waitFor(() => expect(table()).toBe("/api/log/outcomes.csv?words="));
    await user.type(screen.getByRole("searchbox"), "reed & brooch");
    expect(table()).toBe("/api/log/outcomes.csv?words=reed%20%26%20brooch");
    await user.clear(screen.getByRole("searchbox"));
    await user.type(screen.getByRole("searchbox"), "nobody");
    await waitFor(() => expect(table()).toBeUndefined());
  });

  it("opens a run: each step with what came of it, and the way back to it while it goes", async () => {
    serve({ "GET /api/log": LINES, "GET /api/torches": [], "GET /api/runs/1": SAID });
    const { where } = openAt("/log");
    await user.click(await screen.findByRole("link", { name: /Reed brooch/ }));
    await waitFor(() => expect(where()).toBe("/log/1"));
    const steps = (await screen.findAllByRole("listitem")).map((one) => one.textContent ?? "");
    expect(steps).toHaveLength(SAID.records.length);
    expect(steps[3]).toMatch(/Under the flame.*Stem overlay: flowed all along/);
    expect(screen.getByRole("link", { name: "go on with it" }).getAttribute("href")).toBe("/run/1");
  });

  it("shows a note and what was skipped", async () => {
    const records = SAID.records.map((record, n) =>
      n === 1 ? { ...record, skipped: true } : n === 2 ? { ...record, note: "flux was old" } : record,
    );
    serve({ "GET /api/runs/1": { ...SAID, records } });
    openAt("/log/1");
    const steps = await screen.findAllByRole("listitem");
    expect(within(steps[1] as HTMLElement).getByText("skipped")).toBeTruthy();
    expect(within(steps[2] as HTMLElement).getByText("flux was old")).toBeTruthy();
  });
});
