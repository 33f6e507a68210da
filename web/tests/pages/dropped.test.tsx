// @vitest-environment happy-dom
import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import type { BenchView, PieceView } from "../../src/api/types";
import { differences, whatIs } from "../../src/begin/dropped";
import { openAt, user } from "../app";
import { askedFor, recorded, serve } from "../wire";

afterEach(cleanup);

const VIEW = recorded<PieceView>("GET /api/pieces/4");
const BENCH = recorded<BenchView>("GET /api/bench");
const LOOKED = {
  name: "Reed brooch",
  parts: 5,
  joins: 4,
  picture: VIEW.picture,
  plan: { status: "best", heats: 2, grades: ["hard", "medium"], minutes: 49, grams: 8.1 },
  faults: [],
};

describe("a file", () => {
  it.each([
    ["a.svg", "<svg/>", "outline"],
    ["a.DXF", "0", "outline"],
    ["a.json", '{"format": "eskel-piece/1"}', "piece"],
    ["a.json", '{"format": "eskel-bench/1", "house": {}}', "bench"],
    ["a.json", '{"bench": {}}', "bench"],
    ["a.json", "[1]", "unknown"],
    ["a.png", "\u0000", "unknown"],
  ])("%s with %s is a kind of %s", (name, text, kind) => {
    expect(whatIs(name, text).kind).toBe(kind);
  });
});

it("what a bench would change is what it tells otherwise", () => {
  const told = differences(BENCH, { family: "uk" }, { torch: "butane-pencil", tools: [] });
  expect(told.map((one) => [one.key, one.becomes])).toEqual([
    ["house rule: family", "uk"],
    ["bench: torch", "butane pencil"],
    ["bench: tools", "0 in all"],
  ]);
  expect(differences(BENCH, {}, { ...(BENCH.own_bench as object) })).toEqual([]);
});

async function drop(name: string, text: string) {
  await screen.findByRole("heading", { name: "Work" });
  const files = [new File([text], name)];
  fireEvent.drop(window, { dataTransfer: { files, types: ["Files"] } });
}

const SERVED = { "GET /api/pieces": [], "GET /api/pieces/4": VIEW, "POST /api/pieces": VIEW };

describe("a file dropped anywhere", () => {
  it("is shown before it is begun", async () => {
    serve({
      ...SERVED,
      "POST /api/look": LOOKED,
      "GET /api/pieces/4/cutting": recorded("GET /api/pieces/4/cutting"),
    });
    const { where } = openAt("/work");
    await drop("brooch.eskel.json", '{"format": "eskel-piece/1", "name": "Reed brooch"}');
    expect(await screen.findByText(/5 parts, 4 joins: 2 heats, hard · medium/)).toBeTruthy();
    expect(askedFor("POST /api/pieces")).toHaveLength(0);
    await user.click(await screen.findByRole("button", { name: "Begin it as a new piece" }));
    await waitFor(() => expect(where()).toBe("/work/4"));
  });
  it("that is wrong says where, and begins nothing", async () => {
    const fault = {
      code: "bad-id",
      path: "parts[0].id",
      value: "?",
      rule: "an id is letters",
      remedy: "Rename it.",
    };
    serve({
      ...SERVED,
      "POST /api/look": { name: "", parts: 0, joins: 0, picture: null, plan: null, faults: [fault] },
    });
    openAt("/work");
    await drop("brooch.json", '{"format": "eskel-piece/1"}');
    expect(await screen.findByText("parts[0].id: an id is letters. Rename it.")).toBeTruthy();
    await waitFor(() => expect(screen.queryByRole("button", { name: "Begin it as a new piece" })).toBeNull());
  });
  it("that is a bench says what becomes of yours, and changes it when told", async () => {
    serve({ ...SERVED, "PUT /api/bench": BENCH });
    openAt("/work");
    await drop("bench.json", '{"format": "eskel-bench/1", "house": {"family": "uk"}}');
    expect(await screen.findByText("house rule: family")).toBeTruthy();
    await user.click(await screen.findByRole("button", { name: "Change 1 thing of your bench" }));
    await waitFor(() =>
      expect(askedFor("PUT /api/bench")[0]?.body).toMatchObject({
        house: { ...BENCH.own_house, family: "uk" },
      }),
    );
  });
  it("that is an outline begins a piece of sheet", async () => {
    const drawn = {
      outline: { kind: "path", path: "M0 0 H20 V10 H0 Z" },
      width_mm: 20,
      height_mm: 10,
      area_mm2: 200,
      perimeter_mm: 60,
      holes: 0,
    };
    serve({
      ...SERVED,
      "POST /api/outline": drawn,
      "GET /api/pieces/4/cutting": recorded("GET /api/pieces/4/cutting"),
    });
    openAt("/work");
    await drop("leaf.svg", "<svg/>");
    await user.click(await screen.findByRole("button", { name: "Begin a piece with it" }));
    await waitFor(() => expect(askedFor("POST /api/pieces")).toHaveLength(1));
    expect(askedFor("POST /api/pieces")[0]?.body).toMatchObject({
      document: { name: "leaf", parts: [{ form: { kind: "sheet", outline: drawn.outline } }] },
    });
  });
});
