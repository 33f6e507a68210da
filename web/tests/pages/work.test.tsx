// @vitest-environment happy-dom
import { cleanup, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { PieceLine, PieceView } from "../../src/api/types";
import { openAt, user } from "../app";
import { askedFor, Refused, recorded, serve } from "../wire";

afterEach(cleanup);

/** Nothing is laid out here: whatever is watched is on the screen. */
class OnScreen {
  constructor(private readonly onSeen: (entries: { isIntersecting: boolean }[]) => void) {}
  observe = () => this.onSeen([{ isIntersecting: true }]);
  disconnect = () => {};
}
beforeEach(() => {
  vi.stubGlobal("IntersectionObserver", OnScreen);
});

const LINES = recorded<PieceLine[]>("GET /api/pieces");
const VIEW = recorded<PieceView>("GET /api/pieces/4");
const planned = (line: PieceLine, waits_for: string): PieceLine => ({
  ...line,
  status: "best",
  parts: 5,
  joins: 1,
  waits_for,
});

describe("Work", () => {
  it("says what to do where nothing is on the bench", async () => {
    serve({ "GET /api/pieces": [] });
    openAt("/work");
    expect(await screen.findByText(/Nothing is on the bench/)).toBeTruthy();
  });

  it("tells each piece with what it waits for; what is looked at is asked for by itself, with its picture", async () => {
    const [drop, finial] = LINES as [PieceLine, PieceLine];
    serve({
      "GET /api/pieces": [drop, planned(finial, "a hand")],
      [`GET /api/pieces/${String(drop.id)}/line`]: planned(drop, "its first heat"),
      [`GET /api/pieces/${String(finial.id)}/line`]: {
        ...planned(finial, "a hand"),
        picture: VIEW.picture,
      },
    });
    openAt("/work");
    const row = (await screen.findByText("Hollow lantern drop")).closest("li") as HTMLElement;
    await within(row).findByText("its first heat");
    await waitFor(() => expect(within(row).getByText("5 parts · 1 join")).toBeTruthy());
    const other = screen.getByText("a hand").closest("li") as HTMLElement;
    await waitFor(() => expect(other.querySelector("svg path")).toBeTruthy());
    expect(row.querySelector("svg")).toBeNull();
  });

  it("shows a run on the go in place of what a piece waits for", async () => {
    const rail = recorded<{ now: string; entries: unknown[] }>("GET /api/rail");
    serve({
      "GET /api/pieces": LINES.map((line) => planned(line, "a hand")),
      "GET /api/rail": rail,
    });
    openAt("/work");
    expect(await screen.findByText("running: step 4 of 15")).toBeTruthy();
    await waitFor(() => expect(screen.getAllByText("a hand")).toHaveLength(LINES.length - 1));
  });

  it("hides what is put away until it is asked for, and takes it out again", async () => {
    let away = true;
    serve({
      "GET /api/pieces": () => [{ ...planned(LINES[3] as PieceLine, "a hand"), put_away: away }],
      "POST /api/pieces/4/away": ({ body }: { body: { away: boolean } }) => {
        away = body.away;
        return VIEW;
      },
    });
    openAt("/work");
    const show = await screen.findByRole("button", { name: "Show 1 put away" });
    await waitFor(() => expect(screen.queryByText("Reed brooch")).toBeNull());
    await user.click(show);
    await user.click(await screen.findByRole("button", { name: "Take out" }));
    await screen.findByRole("button", { name: "Put away" });
    expect(askedFor("POST /api/pieces/4/away")[0]?.body).toEqual({ away: false });
    await waitFor(() => expect(screen.queryByText(/put away$/)).toBeNull());
  });

  it("begins by a key: the starts are at hand", async () => {
    serve({ "GET /api/pieces": LINES, "GET /api/starts": recorded("GET /api/starts") });
    const { where } = openAt("/work");
    await screen.findByRole("button", { name: "Begin" });
    await user.keyboard("n");
    await waitFor(() => expect(where()).toBe("/begin"));
  });

  it("tells why a file is none, and stays", async () => {
    serve({
      "GET /api/pieces": LINES,
      "POST /api/pieces": new Refused("unknown-metal", 422, "parts[0].metal"),
    });
    const { where } = openAt("/work");
    const file = await screen.findByLabelText("Piece file");
    for (const [text, told] of [
      ["[1]", /a piece file is one JSON object/],
      ["{}", /parts\[0\]\.metal: it can be done/],
    ] as const) {
      await user.upload(file, new File([text], "a.json", { type: "application/json" }));
      expect(await screen.findByText(told)).toBeTruthy();
    }
    expect(askedFor("POST /api/pieces")).toHaveLength(1);
    expect(where()).toBe("/work");
  });

  it("tells that the server does not answer, and that nothing is lost", async () => {
    serve({
      "GET /api/pieces": () => {
        throw new TypeError("no route");
      },
    });
    openAt("/work");
    expect(await screen.findByText(/Eskel does not answer/)).toBeTruthy();
  });
});
