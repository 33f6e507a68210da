// @vitest-environment happy-dom
import { cleanup, screen, waitFor, within } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import type { FindingView, PieceView } from "../../src/api/types";
import { openAt, user } from "../app";
import { type Asked, askedFor, Refused, recorded, serve, type Told } from "../wire";

afterEach(cleanup);

const VIEW = recorded<PieceView>("GET /api/pieces/4");
const RINGS: FindingView = {
  id: 9,
  run: 3,
  name: "Closed ring",
  left: 5,
  made_at: "2026-02-01T09:00:00Z",
  parts: ["ring"],
  joins: 1,
  picture: VIEW.picture,
};

describe("the shelf on the bench", () => {
  async function opened(own: Record<string, Told>) {
    serve(own);
    openAt("/bench");
    return within(await screen.findByRole("region", { name: "Shelf" }));
  }

  it("says how it fills while it is empty", async () => {
    const shelf = await opened({});
    expect(await shelf.findByText(/When a run is over/)).toBeTruthy();
  });

  it("is counted anew, against what was seen", async () => {
    let left = 5;
    const shelf = await opened({
      "GET /api/findings": () => [{ ...RINGS, left }],
      "POST /api/findings/9/left": ({ body }: Asked) => {
        left = (body as { left: number }).left;
        return { ...RINGS, left };
      },
    });
    const field = await shelf.findByLabelText<HTMLInputElement>("left");
    await user.clear(field);
    await user.type(field, "3{Enter}");
    await waitFor(() => expect(askedFor("POST /api/findings/9/left")[0]?.body).toEqual({ was: 5, left: 3 }));
  });

  it("tells that somebody counted before", async () => {
    const shelf = await opened({
      "GET /api/findings": [RINGS],
      "POST /api/findings/9/left": new Refused("clash", 409, "left", "4 are left by now"),
    });
    const field = await shelf.findByLabelText("left");
    await user.clear(field);
    await user.type(field, "6{Enter}");
    expect((await shelf.findByRole("alert")).textContent).toContain("4 are left by now");
  });

  it("loses what is taken off it", async () => {
    let there = [RINGS];
    const shelf = await opened({
      "GET /api/findings": () => there,
      "DELETE /api/findings/9": () => {
        there = [];
        return null;
      },
    });
    await user.click(await shelf.findByRole("button", { name: "Take Closed ring off the shelf" }));
    expect(await shelf.findByText(/When a run is over/)).toBeTruthy();
  });
});

describe("the shelf at a piece", () => {
  async function opened(findings: FindingView[], copies = 1) {
    const view = { ...VIEW, document: { ...VIEW.document, copies } };
    const ring = { ...VIEW.document.parts[0], id: "ring", name: "Ring off the shelf", made: true };
    const taken = {
      ...view,
      revision: view.revision + 1,
      document: { ...view.document, parts: [...view.document.parts, ring] },
    };
    serve({
      "GET /api/pieces/4": view,
      "GET /api/pieces/4/cutting": recorded("GET /api/pieces/4/cutting"),
      "GET /api/findings": findings,
      "POST /api/findings/9/take": taken,
    });
    openAt("/work/4");
    await screen.findByRole("heading", { name: "Parts" });
    await user.click(await screen.findByRole("button", { name: "Off the shelf" }));
  }

  it("gives one, which is there with its joins", async () => {
    await opened([RINGS]);
    await user.click(await screen.findByRole("button", { name: "Take Closed ring" }));
    expect(await screen.findByText("Ring off the shelf")).toBeTruthy();
    await waitFor(() => expect(screen.getByText(/^there already: /)).toBeTruthy());
    expect(askedFor("POST /api/findings/9/take")[0]?.body).toEqual({
      piece: 4,
      revision: VIEW.revision,
      number: 1,
    });
  });

  it.each([
    ["none left", { ...RINGS, left: 0 }, 1],
    ["5 left", RINGS, 6],
    ["cannot be read any more", { ...RINGS, picture: null }, 1],
  ])("gives nothing where it cannot: %s", async (words, finding, copies) => {
    await opened([finding], copies);
    expect(await screen.findByText(words)).toBeTruthy();
    await waitFor(() =>
      expect(screen.getByRole<HTMLButtonElement>("button", { name: "Take Closed ring" }).disabled).toBe(true),
    );
  });

  it("says how it fills while it is empty", async () => {
    await opened([]);
    expect(await screen.findByText(/Nothing is on the shelf/)).toBeTruthy();
  });
});
