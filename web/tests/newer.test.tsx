// @vitest-environment happy-dom
import { cleanup, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { openAt, user } from "./app";
import { recorded, serve } from "./wire";

type Told = { now: string; page: string; entries: { kind: string }[] };
const RAIL = recorded<Told>("GET /api/rail");

function railOf(page: string, kind: string): Told {
  return { ...RAIL, page, entries: RAIL.entries.map((entry) => ({ ...entry, kind })) };
}

beforeEach(() => {
  const meta = document.createElement("meta");
  meta.name = "page";
  meta.content = "build-1";
  document.head.append(meta);
});

afterEach(() => {
  cleanup();
  document.querySelector('meta[name="page"]')?.remove();
});

describe("a tab that was opened with an earlier build of the page", () => {
  it("says so, and takes the newer one when it is told to, or with the next change of place", async () => {
    const went = vi.spyOn(window.location, "assign").mockImplementation(() => {});
    const again = vi.spyOn(window.location, "reload").mockImplementation(() => {});
    serve({ "GET /api/pieces": [], "GET /api/rail": railOf("build-2", "cool") });
    openAt("/work");
    await user.click(await screen.findByRole("button", { name: "Take it" }));
    expect(again).toHaveBeenCalledTimes(1);
    await user.click(await screen.findByRole("link", { name: "Log" }));
    await waitFor(() => expect(went).toHaveBeenCalledWith("/log"));
  });

  it("takes it after the heat where one is on", async () => {
    const went = vi.spyOn(window.location, "assign").mockImplementation(() => {});
    serve({ "GET /api/pieces": [], "GET /api/rail": railOf("build-2", "heat") });
    openAt("/work");
    expect(await screen.findByText(/it is taken after this heat/)).toBeTruthy();
    await waitFor(() => expect(screen.queryByRole("button", { name: "Take it" })).toBeNull());
    await user.click(await screen.findByRole("link", { name: "Sizes" }));
    await screen.findByRole("heading", { name: "Sizes" });
    expect(went).not.toHaveBeenCalled();
  });

  it("says nothing where it is the newest", async () => {
    serve({ "GET /api/pieces": [], "GET /api/rail": railOf("build-1", "cool") });
    openAt("/work");
    await screen.findByText(/cooling/);
    await waitFor(() => expect(screen.queryByText(/newer page/)).toBeNull());
  });
});
