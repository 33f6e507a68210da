// @vitest-environment happy-dom
import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import type { PieceLine, PieceView } from "../../src/api/types";
import { openAt, user } from "../app";
import { recorded, serve } from "../wire";

afterEach(cleanup);

const SERVED = {
  "GET /api/pieces": recorded<PieceLine[]>("GET /api/pieces"),
  "GET /api/pieces/4": recorded<PieceView>("GET /api/pieces/4"),
  "GET /api/pieces/4/cutting": recorded("GET /api/pieces/4/cutting"),
  "GET /api/starts": recorded("GET /api/starts"),
  "GET /api/sizes": recorded("GET /api/sizes"),
  "GET /api/rules": recorded("GET /api/rules"),
  "GET /api/log": recorded("GET /api/log"),
};

async function asked(address: string, words: string) {
  serve(SERVED);
  const opened = openAt(address);
  await screen.findByRole("navigation", { name: "Places" });
  if (address === "/work/4") await screen.findByRole("heading", { name: "Parts" });
  fireEvent.keyDown(document.body, { key: "k", ctrlKey: true });
  await user.type(await screen.findByPlaceholderText(/Find a piece/), words);
  return opened;
}

describe("what finds anything", () => {
  it.each([
    ["/work", "reed brooch", "/work/4"],
    ["/work", "plain band", "/begin/band"],
    ["/work", "ring blank", "/sizes/ring-blank"],
    ["/work", "go to bench", "/bench"],
    ["/bench", "hot into acid", "/rules"],
  ])("from %s by %s goes to %s", async (from, words, to) => {
    const { where } = await asked(from, words);
    await waitFor(() => expect(document.querySelectorAll("[cmdk-item]").length).toBeGreaterThan(0));
    await user.keyboard("{Enter}");
    await waitFor(() => expect(where()).toBe(to));
  });
  it("chooses a part of the piece that is open", async () => {
    await asked("/work/4", "part catch");
    await user.keyboard("{Enter}");
    await waitFor(() => expect(screen.getByLabelText("Catch in a line")).toBeTruthy());
  });
  it("does what can be done here", async () => {
    await asked("/work/4", "join parts by pointing");
    await user.keyboard("{Enter}");
    expect(await screen.findByText(/Point at a part/)).toBeTruthy();
  });
  it("says so where nothing holds the words", async () => {
    await asked("/work", "zzz");
    expect(await screen.findByText("Nothing holds these words.")).toBeTruthy();
  });
});
