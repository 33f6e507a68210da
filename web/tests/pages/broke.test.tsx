// @vitest-environment happy-dom
import { cleanup, screen, waitFor, within } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { Picture, PieceView } from "../../src/api/types";
import { seenFrom, viewsOf } from "../../src/drawing/views";
import { openAt, user } from "../app";
import { askedFor, recorded, serve } from "../wire";

afterEach(cleanup);

const PIECE = "GET /api/pieces/4";

/** A piece whose page breaks while it is shown: its plan has no steps at all. */
const broken = () => ({ ...recorded<PieceView>(PIECE), plan: null });

describe("a page that breaks", () => {
  it("keeps the rail and its timers, says what happened, and is shown again when asked", async () => {
    vi.spyOn(console, "error").mockImplementation(() => {});
    let mended = false;
    serve({
      [PIECE]: () => (mended ? recorded(PIECE) : broken()),
      "GET /api/rail": recorded("GET /api/rail"),
    });
    openAt("/work/4");
    const alert = await screen.findByRole("alert");
    await waitFor(() => expect(within(alert).getByText(/TypeError/)).toBeTruthy());
    const rail = screen.getByRole("complementary", { name: "Running now" });
    expect(await within(rail).findByText(/at the torch/)).toBeTruthy();
    mended = true;
    await user.click(await within(alert).findByRole("button", { name: "Show it again" }));
    await waitFor(() => expect(screen.queryByText("This page could not be shown.")).toBeNull());
    expect(await screen.findByDisplayValue("Reed brooch")).toBeTruthy();
  });

  it("of a run can still be stopped", async () => {
    vi.spyOn(console, "error").mockImplementation(() => {});
    const rail = recorded<{ entries: { run: number; position: number }[] }>("GET /api/rail");
    // A run of its own: what is kept of another is not shown in its place.
    const run = 901;
    rail.entries = rail.entries.map((entry) => ({ ...entry, run }));
    const sheet = recorded<{ id: number; faces: unknown }>("GET /api/runs/{key}/sheet");
    serve({
      "GET /api/rail": rail,
      "GET /api/pieces": [],
      [`GET /api/runs/${String(run)}/sheet`]: { ...sheet, id: run, steps: null },
      [`GET /api/runs/${String(run)}/events`]: { events: [], taken: 0, now_ms: Date.now() },
      [`POST /api/runs/${String(run)}/events`]: { events: [], taken: 0, now_ms: Date.now() },
      [`POST /api/runs/${String(run)}/stop`]: null,
    });
    const { where } = openAt(`/run/${String(run)}`);
    await user.click(await screen.findByRole("button", { name: "Stop this run" }));
    await waitFor(() => expect(where()).toBe("/work"));
    expect(askedFor(`POST /api/runs/${String(run)}/stop`)).toHaveLength(1);
  });
});

describe("a picture of a thousand alike", () => {
  it("is laid out like any other", () => {
    const { picture } = recorded<PieceView>(PIECE);
    const [first] = picture.parts;
    if (!first) throw new Error("the piece has parts");
    const points = Array.from({ length: 200 }, (_, n): [number, number] => [n / 10, (n * n) % 7]);
    const parts = Array.from({ length: 1_000 }, (_, n) => ({
      ...first,
      node: `ball#${String(n + 1)}`,
      lines: [{ points, closed: true, width_mm: 0, faint: false }],
    }));
    const many = { ...picture, parts } as Picture;
    expect(seenFrom(many, viewsOf(many), [640, 400]).seen[0]?.parts).toHaveLength(1_000);
  });
});
