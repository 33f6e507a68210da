// @vitest-environment happy-dom
import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { AS_IT_RAN } from "../../src/api/queries";
import type { FindingView, RestOtherwise, RestView, RunView } from "../../src/api/types";
import { openAt, user } from "../app";
import { choose } from "../choose";
import { newDevice, runAt, serveRun } from "../theRun";
import { type Asked, askedFor, Refused, recorded, type Told } from "../wire";

beforeEach(newDevice);
afterEach(cleanup);

const SOLDERS = [
  { id: "us-hard", name: "Hard" },
  { id: "us-easy", name: "Easy" },
];
const NEXT = recorded<RunView>("GET /api/runs/{key} at work");

/** What is left, as a server has it by what is otherwise: of two joins and two parts. */
function leftBy(told: RestOtherwise, more: Partial<RestView> = {}): RestView {
  const made = !told.open.includes("foot");
  return {
    turn: "4",
    joins: [
      {
        id: "foot",
        title: "Foot",
        heated: true,
        fused: false,
        made,
        solder: made ? (told.made.foot ?? "us-hard") : null,
        takes: made ? null : "us-easy",
      },
      {
        id: "seam",
        title: "Seam",
        heated: true,
        fused: true,
        made: "seam" in told.made,
        solder: null,
        takes: null,
      },
    ],
    parts: [
      { id: "post", title: "Post", made: !told.anew.includes("post"), length_mm: told.lengths_mm.post ?? 20 },
      { id: "base", title: "Base", made: true, length_mm: null },
    ],
    solders: SOLDERS.filter(({ id }) => !told.ran_out.includes(id)),
    heats: [{ heat_no: 1, title: "Seam", named: "easy", minutes: 6 }],
    steps: 7,
    minutes: 31,
    why_not: [],
    stops: [],
    dangers: [],
    ...more,
  };
}

async function planned(more: Partial<RestView> = {}, own: Record<string, Told> = {}) {
  serveRun(runAt("heat"), {
    "POST /api/runs/1/rest": ({ body }: Asked) => leftBy(body as RestOtherwise, more),
    "POST /api/runs/1/go-on": { ...NEXT, id: 2 },
    ...own,
  });
  const { where } = openAt("/run/1");
  await screen.findByText("step 4 of 15");
  fireEvent.keyDown(document.body, { key: "r" });
  await screen.findByRole("region", { name: "The new plan" });
  return { where };
}
const lastAsked = () => askedFor("POST /api/runs/1/rest").at(-1)?.body as RestOtherwise;
const touch = (name: string | RegExp) => user.click(screen.getByRole("button", { name }));

describe("what is left of a run", () => {
  it("is planned from the piece as the run has made it", async () => {
    await planned();
    expect(lastAsked()).toEqual({ open: [], made: {}, lengths_mm: {}, anew: [], ran_out: [] });
    const plan = within(screen.getByRole("region", { name: "The new plan" }));
    expect(plan.getByText(/One heat to come/).textContent).toContain("31 min");
    expect(plan.getByText("easy")).toBeTruthy();
  });

  it.each([
    ["a join opened", () => touch("Foot: it is there"), { open: ["foot"] }],
    ["a fused join was made", () => touch("Seam: open"), { made: { seam: null } }],
    ["a part is cut anew", () => touch("Post: cut it anew"), { anew: ["post"] }],
    ["a solder ran out", () => touch("Hard"), { ran_out: ["us-hard"] }],
  ] as const)("%s: it is planned anew with that, and can be taken back", async (_, tell, told) => {
    await planned();
    await tell();
    await waitFor(() => expect(lastAsked()).toMatchObject(told));
    const back = {
      open: "Foot: open",
      made: "Seam: it is there",
      anew: "Post: cut anew",
      ran_out: "Hard ran out",
    };
    const key = Object.keys(told)[0] as keyof typeof back;
    await user.click(await screen.findByRole("button", { name: back[key] }));
    const now = key === "made" ? { open: ["seam"], made: {} } : { [key]: [] };
    await waitFor(() => expect(lastAsked()).toMatchObject(now));
  });

  it("a join that is there after all was made as it is planned, unless told otherwise", async () => {
    await planned();
    await touch("Foot: it is there");
    await waitFor(() => expect(lastAsked().open).toEqual(["foot"]));
    cleanup();
    await planned({ joins: leftBy({ ...AS_IT_RAN, open: ["foot"] }).joins });
    await touch("Foot: open");
    await waitFor(() => expect(lastAsked().made).toEqual({ foot: "us-easy" }));
  });

  it("a join that was made with another solder is told so", async () => {
    await planned();
    await choose(screen.getByLabelText("Solder of Foot"), "us-easy");
    await waitFor(() => expect(lastAsked().made).toEqual({ foot: "us-easy" }));
  });

  it("a part that was clipped is told by its length", async () => {
    await planned();
    const field = screen.getByLabelText("long now, mm");
    await user.clear(field);
    await user.type(field, "12{Enter}");
    await waitFor(() => expect(lastAsked().lengths_mm).toEqual({ post: 12 }));
  });

  it("is gone on with: another run begins by it, with what was told and what was read", async () => {
    const stop = {
      code: "steel-in-pickle",
      severity: "stop",
      step: 3,
      about: [],
      text: "Steel.",
      remedy: "Off",
    };
    const { where } = await planned({ stops: [stop as never] });
    await touch("Easy");
    await screen.findByRole("button", { name: "Easy ran out" });
    await waitFor(() =>
      expect(screen.getByRole("region", { name: "The new plan" }).ariaBusy).not.toBe("true"),
    );
    await touch(/I have read it: go on by this plan/);
    await waitFor(() => expect(where()).toBe("/run/2"));
    expect(askedFor("POST /api/runs/1/go-on")[0]?.body).toEqual({
      turn: "4",
      otherwise: { open: [], made: {}, lengths_mm: {}, anew: [], ran_out: ["us-easy"] },
      confirmed: [{ code: "steel-in-pickle", step: 3 }],
    });
  });

  it("says why it cannot be made, and is not gone on with", async () => {
    await planned({ heats: [], steps: 0, why_not: ["Foot must not run again where nothing holds it."] });
    await waitFor(() => expect(screen.getByRole("alert").textContent).toContain("must not run again"));
    await waitFor(() =>
      expect(screen.getByRole<HTMLButtonElement>("button", { name: "Go on by this plan" }).disabled).toBe(
        true,
      ),
    );
  });

  it("that is nothing is said to be so", async () => {
    await planned({ heats: [], steps: 0 });
    await waitFor(() => expect(screen.getByText(/Nothing is left to be done/)).toBeTruthy());
    await waitFor(() =>
      expect(screen.getByRole<HTMLButtonElement>("button", { name: "Go on by this plan" }).disabled).toBe(
        true,
      ),
    );
  });

  it("tells a refusal and stays where it is", async () => {
    const { where } = await planned(
      {},
      { "POST /api/runs/1/go-on": new Refused("clash", 409, "turn", "the run moved on") },
    );
    await touch("Go on by this plan");
    expect((await screen.findByRole("alert")).textContent).toContain("the run moved on");
    expect(where()).toBe("/run/1");
  });

  it("is kept as a piece of its own", async () => {
    const { where } = await planned({}, { "POST /api/runs/1/piece": { id: 77 } });
    await touch("Keep it as a piece of its own");
    await waitFor(() => expect(where()).toBe("/work/77"));
  });

  it("acts by no key of the torch while it is open", async () => {
    await planned();
    fireEvent.keyDown(screen.getByRole("dialog"), { key: " " });
    fireEvent.keyDown(screen.getByRole("dialog"), { key: "s" });
    await waitFor(() => expect(screen.getByText("step 4 of 15")).toBeTruthy());
  });
});

describe("what a run has made, when it is over", () => {
  const over = () => {
    const run = runAt("heat");
    run.events.push({
      id: "other-screen-1",
      device: "other-screen",
      seq: 1,
      at_ms: (run.events.at(-1)?.at_ms ?? 0) + 1_000,
      ahead_ms: 0,
      kind: "stop",
      turn: "4",
    } as never);
    return run;
  };

  it("goes on the shelf, called and counted", async () => {
    serveRun(over(), { "POST /api/findings": { id: 9, name: "Ear wires", left: 6 } as Partial<FindingView> });
    openAt("/run/1");
    await user.click(await screen.findByRole("button", { name: "Put it on the shelf" }));
    const called = screen.getByLabelText("Called");
    await user.clear(called);
    await user.type(called, "Ear wires");
    const many = screen.getByLabelText("How many");
    await user.clear(many);
    await user.type(many, "6");
    await user.click(await screen.findByRole("button", { name: "Put it there" }));
    await screen.findByRole("button", { name: "6 on the shelf" });
    expect(askedFor("POST /api/findings")[0]?.body).toEqual({ run: 1, name: "Ear wires", left: 6 });
  });

  it("begins another piece", async () => {
    serveRun(over(), { "POST /api/runs/1/piece": { id: 12 } });
    const { where } = openAt("/run/1");
    await user.click(await screen.findByRole("button", { name: "Begin a piece from what was made" }));
    await waitFor(() => expect(where()).toBe("/work/12"));
  });

  it("is told where the run went on", async () => {
    serveRun(over(), { "GET /api/runs/1/kin": { before: null, after: 5 } });
    openAt("/run/1");
    const link = await screen.findByRole("link", { name: /went on as another run/ });
    expect(link.getAttribute("href")).toBe("/log/5");
  });
});
