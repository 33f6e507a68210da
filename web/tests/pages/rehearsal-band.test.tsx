// @vitest-environment happy-dom
import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Job, PieceView, Rehearsal } from "../../src/api/types";
import { openAt, user } from "../app";
import { choose, offeredBy } from "../choose";
import { type Asked, askedFor, Refused, recorded, serve, type Told } from "../wire";

afterEach(cleanup);
// The band works nothing out before it is seen: here it is seen at once.
beforeEach(() => {
  class Seen {
    constructor(private readonly tell: (entries: { isIntersecting: boolean; target: Element }[]) => void) {}
    observe(target: Element) {
      this.tell([{ isIntersecting: true, target }]);
    }
    disconnect() {}
  }
  vi.stubGlobal("IntersectionObserver", Seen);
  localStorage.clear();
});

const VIEW = recorded<PieceView>("GET /api/pieces/4");
const JOB = recorded<Job>("POST /api/pieces/4/rehearsals");
const FOUND = JOB.rehearsal as Rehearsal;
const ASKED = "POST /api/pieces/4/rehearsals";
type Wish = { kind: string; heat_no: number; torch: string | null; habit: string; setting: number };
const wishes = (): Wish[] => askedFor(ASKED).map(({ body }) => body as Wish);
const looked = () => wishes().filter((wish) => wish.kind === "heat" && wish.heat_no === 1);

async function opened(more: Record<string, Told> = {}) {
  serve({
    "GET /api/pieces/4": VIEW,
    "GET /api/pieces/4/cutting": recorded("GET /api/pieces/4/cutting"),
    "GET /api/pieces/4/why/stem-on": { join: "stem-on", title: "Stem overlay", alternatives: [] },
    "GET /api/glow": recorded("GET /api/glow"),
    [ASKED]: JOB,
    ...more,
  });
  openAt("/work/4");
  return within(await screen.findByRole("region", { name: "Rehearsal" }));
}

describe("a rehearsal", () => {
  it("tells first what was found, then the rest, and the programme stage by stage", async () => {
    const band = await opened();
    const lines = FOUND.lines ?? [];
    expect(await band.findByText(lines[0] ?? "", { exact: false })).toBeTruthy();
    expect(lines.length).toBeGreaterThan(1);
    expect(band.getByText(lines.slice(1).join(" "))).toBeTruthy();
    const stages = within(band.getByRole("list", { name: "Programme" })).getAllByRole("listitem");
    expect(stages.map((stage) => stage.textContent)).toEqual(
      FOUND.programme.map(
        (stage, n) => `${String(n + 1)}${stage.text}${n === FOUND.programme.length - 1 ? stage.if_late : ""}`,
      ),
    );
  });

  it("is shown at its end first, and at any moment by its slider: clock, stage and glow together", async () => {
    const band = await opened();
    const slider = await band.findByRole("slider", { name: "Time" });
    const end = FOUND.series.time_s.at(-1) ?? 0;
    expect(Number(slider.getAttribute("aria-valuenow"))).toBeCloseTo(end, 0);
    const current = () => band.getByRole("list", { name: "Programme" }).querySelector("[aria-current=step]");
    expect(current()?.textContent).toMatch(new RegExp(`^${String(FOUND.programme.length)}`));
    fireEvent.keyDown(slider, { key: "Home" });
    for (let at = 0; at < 5; at += end / 240) fireEvent.keyDown(slider, { key: "ArrowRight" });
    expect(slider.getAttribute("aria-valuetext")).toMatch(/^[45]\.\d seconds$/);
    expect(current()?.textContent).toMatch(/^1/);
    expect(band.getByText(/no glow|not glowing|black/i)).toBeTruthy();
  });

  it("plays by the space bar on its slider, and pauses by it", async () => {
    const band = await opened();
    const slider = await band.findByRole("slider", { name: "Time" });
    fireEvent.keyDown(slider, { key: " " });
    expect(band.getByRole("button", { name: "Pause" })).toBeTruthy();
    fireEvent.keyDown(slider, { key: " " });
    expect(band.getByRole("button", { name: "Play" })).toBeTruthy();
  });

  it("is drawn with each line named at its end, in the house's degrees", async () => {
    const band = await opened();
    const curves = await band.findByRole("img", { name: "Temperatures over time" });
    const words = [...curves.querySelectorAll("text")].map((one) => one.textContent ?? "");
    expect(words.some((word) => /^Stem overlay 7\d\d °C$/.test(word))).toBe(true);
    expect(words).toContain("runs at 788 °C");
    expect(words.some((word) => word === "slumps at 816 °C")).toBe(true);
  });

  it("shows the share of hands, one by one, and those that failed at when and where", async () => {
    const hands = {
      tried: 64,
      well: 60,
      short: 1,
      spoilt: [{ about: "stem", kind: "slumps", count: 3 }],
      marks: [
        { kind: "slumps", about: "stem", seconds: 31 },
        { kind: "too-cool", about: null, seconds: 240 },
      ],
    };
    const band = await opened({ [ASKED]: { ...JOB, rehearsal: { ...FOUND, hands } } as Job });
    const share = await band.findByRole("img", { name: "60 of 64 hands do it well" });
    expect(share.querySelectorAll("circle")).toHaveLength(61);
    expect(share.querySelectorAll("path")).toHaveLength(3);
    const titles = [...band.getByRole("img", { name: "Temperatures over time" }).querySelectorAll("title")];
    const told = titles.map((title) => title.textContent);
    expect(told).toContain("slumps at 31 s");
    expect(told).toContain("too cool at 240 s");
  });

  it("stands along its time as signs: a press goes to where a stage ends", async () => {
    const band = await opened();
    const signs = within(await band.findByRole("list", { name: "Signs" })).getAllByRole("button");
    expect(signs).toHaveLength(FOUND.programme.length);
    expect([signs[0]?.textContent, signs.at(-1)?.textContent]).toEqual(["white crust", "runs"]);
    await user.click(signs[0] as HTMLElement);
    const slider = band.getByRole("slider", { name: "Time" });
    expect(Number(slider.getAttribute("aria-valuenow"))).toBeCloseTo(
      FOUND.programme[0]?.seconds.likely ?? 0,
      0,
    );
  });

  it("draws round each main line what the other hands see", async () => {
    const band = await opened();
    const curves = await band.findByRole("img", { name: "Temperatures over time" });
    const areas = [...curves.querySelectorAll("path")].filter((path) =>
      path.getAttribute("d")?.endsWith("Z"),
    );
    const main = new Set([...FOUND.joins, FOUND.tightest?.about]);
    const lines = [...FOUND.series.joins, ...FOUND.series.parts].filter((line) => main.has(line.id));
    expect(areas.length).toBeGreaterThanOrEqual(lines.length);
    for (const line of lines) {
      expect(line.band?.low).toHaveLength(FOUND.series.time_s.length);
      line.band?.low.forEach((low, n) => void expect(low).toBeLessThanOrEqual(line.band?.high[n] ?? 0));
    }
  });

  it.each([
    ["Torch and tip", "butane-pencil", { torch: "butane-pencil" }],
    ["Programme or habit", "even", { habit: "even", setting: 1 }],
  ])("is made anew with another %s", async (label, value, wish) => {
    const band = await opened();
    const field = await band.findByLabelText<HTMLElement>(label);
    await waitFor(() => expect(offeredBy(field).length).toBeGreaterThan(1));
    await choose(field, value);
    await waitFor(() => expect(looked().at(-1)).toMatchObject(wish));
  });

  it("asks for the flame's setting only where a habit is tried, and tells it in tenths", async () => {
    const band = await opened();
    await band.findByLabelText("Programme or habit");
    expect(band.queryByLabelText("Flame setting")).toBeNull();
    await choose(band.getByLabelText("Programme or habit"), "join");
    const setting = await band.findByLabelText<HTMLElement>("Flame setting");
    expect(offeredBy(setting).map((one) => one.words)).toContain("full flame");
    const lower = offeredBy(setting).find((one) => /tenths/.test(one.words)) as { value: string };
    await choose(setting, lower.value);
    await waitFor(() => expect(looked().at(-1)?.setting).toBe(Number(lower.value)));
  });

  it("is copied into the plan, once", async () => {
    const used = {
      ...VIEW,
      revision: 2,
      document: {
        ...VIEW.document,
        rehearsals: [
          {
            heat_no: 1,
            torch: FOUND.torch,
            surface: FOUND.surface,
            forms: FOUND.forms,
            joins: FOUND.joins,
            work: FOUND.work,
            seconds_likely: FOUND.seconds_to_flow?.likely ?? null,
          },
        ],
      },
    };
    const band = await opened({
      "POST /api/pieces/4/rehearsals/use": used,
      "GET /api/pieces/4/rehearsals/stale": { heats: [] },
    });
    await user.click(await band.findByRole("button", { name: "Use this rehearsal" }));
    const button = await band.findByRole("button", { name: "Used in the plan" });
    expect(button.hasAttribute("disabled")).toBe(true);
    expect(askedFor("POST /api/pieces/4/rehearsals/use")[0]?.body).toEqual({
      revision: 1,
      rehearsal: JOB.id,
    });
  });

  it("that has become old is told as that", async () => {
    const stale = {
      ...VIEW,
      document: { ...VIEW.document, rehearsals: [{ heat_no: 1, joins: [], work: null }] },
    };
    const band = await opened({
      "GET /api/pieces/4": stale,
      "GET /api/pieces/4/rehearsals/stale": { heats: [1] },
    });
    expect(await band.findByText(/it is out of date/)).toBeTruthy();
  });
});

describe("a rehearsal under way", () => {
  const running = (share: number): Job => ({
    ...JOB,
    state: "running",
    what: "programme",
    share,
    rehearsal: null,
  });
  const one = "GET /api/rehearsals/j";

  it("shows how far it is, and the finding when it is there", async () => {
    const told: Job[] = [running(0.4), JOB];
    const band = await opened({ [ASKED]: { ...running(0.1), id: "j" }, [one]: () => told.shift() ?? JOB });
    expect(await band.findByText("Rehearsing: programme…")).toBeTruthy();
    expect(await band.findByRole("list", { name: "Programme" }, { timeout: 3_000 })).toBeTruthy();
  });

  it("is stopped, and begun again when told to", async () => {
    const stopped: Job = { ...running(0.4), id: "j", state: "stopped" };
    let state: Job = { ...running(0.4), id: "j" };
    const band = await opened({
      [ASKED]: () => state,
      [one]: () => state,
      "POST /api/rehearsals/j/stop": () => {
        state = stopped;
        return stopped;
      },
    });
    await user.click(await band.findByRole("button", { name: "Stop" }));
    const again = await band.findByRole("button", { name: "Rehearse again" });
    state = JOB;
    await user.click(again);
    expect(await band.findByRole("list", { name: "Programme" })).toBeTruthy();
  });

  it.each([
    [
      "refused",
      new Refused("unknown-tool", 422, "torch", "the torch is of the table"),
      /the torch is of the table/,
    ],
    [
      "failed",
      { ...JOB, state: "failed", rehearsal: null, what: "its process ended" },
      /came to no end: its process ended/,
    ],
    [
      "told why not",
      {
        ...JOB,
        state: "failed",
        rehearsal: null,
        faults: [
          { code: "x", path: "heat", value: 1, rule: "a heat has metal in it", remedy: "Give it one." },
        ],
      },
      /a heat has metal in it/,
    ],
  ])("that is %s says so", async (_, answer, words) => {
    const band = await opened({ [ASKED]: answer });
    expect(await band.findByText(words)).toBeTruthy();
    expect(band.queryByRole("list", { name: "Programme" })).toBeNull();
  });
});

describe("what would help", () => {
  it("is tried when asked for, where the best programme harms", async () => {
    const harm = { ...JOB, rehearsal: { ...FOUND, verdict: "luck" } } as Job;
    const helped = {
      ...JOB,
      id: "h",
      rehearsal: null,
      help: [{ kind: "torch", id: "t", verdict: "sure", text: "A larger tip runs all after 40 s." }],
    } as unknown as Job;
    const band = await opened({
      [ASKED]: ({ body }: Asked) => ((body as Wish).kind === "help" ? helped : harm),
    });
    await user.click(await band.findByRole("button", { name: "What would help?" }));
    const told = within(band.getByRole("region", { name: "What would help" }));
    expect(await told.findByText("A larger tip runs all after 40 s.")).toBeTruthy();
    expect(told.getByRole("img", { name: "sure" })).toBeTruthy();
  });

  it("is not offered where all has run", async () => {
    const band = await opened();
    await band.findByRole("list", { name: "Programme" });
    expect(band.queryByRole("button", { name: "What would help?" })).toBeNull();
  });
});
