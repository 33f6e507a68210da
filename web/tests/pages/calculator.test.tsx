// @vitest-environment happy-dom
import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { BenchView, CalculatorView, PieceLine, PieceView, SizeAnswer } from "../../src/api/types";
import { openAt, user } from "../app";
import { choose } from "../choose";
import { type Asked, askedFor, Refused, recorded, serve, type Told } from "../wire";

afterEach(cleanup);
beforeEach(() => {
  sessionStorage.clear();
  localStorage.clear();
});

const SIZES = recorded<CalculatorView[]>("GET /api/sizes");
const ANSWER = recorded<SizeAnswer>("POST /api/sizes/ring-blank");
const typedInto = (name: string) =>
  askedFor(`POST /api/sizes/${name}`).map(({ body }) => (body as { typed: unknown }).typed);
const latest = (name: string) => typedInto(name).at(-1);

async function opened(name: string, more: Record<string, Told> = {}) {
  serve({
    "GET /api/sizes": SIZES,
    [`POST /api/sizes/${name}`]: { ...ANSWER, name },
    ...more,
  });
  const app = openAt(`/sizes/${name}`);
  await screen.findByRole("heading", { name: SIZES.find((one) => one.name === name)?.title ?? "", level: 1 });
  return app;
}

describe("the list of calculators", () => {
  it("is found by a word, its key goes there, and says when none holds it", async () => {
    serve({ "GET /api/sizes": SIZES });
    openAt("/sizes");
    await screen.findAllByRole("link", { name: /Ring blank/ });
    fireEvent.keyDown(document.body, { key: "/" });
    await user.keyboard("chain");
    await waitFor(() => expect(screen.queryByRole("link", { name: /Ring blank/ })).toBeNull());
    await waitFor(() => expect(screen.getAllByRole("link", { name: /Chain/ }).length).toBeGreaterThan(0));
    await user.keyboard("zz");
    await waitFor(() => expect(screen.getByText("No calculator holds these words.")).toBeTruthy());
  });

  it("knows no calculator of another name", async () => {
    serve({ "GET /api/sizes": SIZES });
    const { where } = openAt("/sizes/lathe");
    await user.click(await screen.findByRole("button", { name: "See all of them" }));
    await waitFor(() => expect(where()).toBe("/sizes"));
  });
});

describe("a calculator", () => {
  it("begins with its example, answered, and the figure wanted stands largest", async () => {
    await opened("ring-blank");
    expect((await screen.findByTestId("main-result")).textContent).toBe("59.12 mm");
    await waitFor(() => expect(screen.getByText("2.328 in")).toBeTruthy());
    await waitFor(() => expect(screen.getByText("π × (17.32 + 1.5) = 59.12 mm")).toBeTruthy());
    expect(typedInto("ring-blank")).toEqual([
      {
        size: "US 9",
        thickness_mm: "1.8",
        saw_allowance_mm: "0",
        section: "flat",
        pieces: "1",
        spares: "0",
        mirrored: false,
      },
    ]);
  });

  it("begins in the units of the house, with the same measures", async () => {
    const bench = recorded<BenchView>("GET /api/bench");
    const house = { ...bench.house, units: "inch", temperature: "f", mass: "troy" };
    await opened("ring-blank", { "GET /api/bench": { ...bench, house } });
    await screen.findByTestId("main-result");
    expect(latest("ring-blank")).toMatchObject({
      size: "US 9",
      thickness_mm: "0.0709",
      saw_allowance_mm: "0",
    });
    await waitFor(() => expect(screen.getByLabelText<HTMLInputElement>("Thickness").value).toBe("0.0709"));
  });

  it("forgets what was typed in other units", async () => {
    await opened("ring-blank");
    await user.type(await screen.findByLabelText("Width"), "4.5");
    cleanup();
    const bench = recorded<BenchView>("GET /api/bench");
    await opened("ring-blank", { "GET /api/bench": { ...bench, house: { ...bench.house, units: "inch" } } });
    await waitFor(() => expect(screen.getByLabelText<HTMLInputElement>("Width").value).toBe(""));
    cleanup();
    await opened("ring-blank");
    await waitFor(() => expect(screen.getByLabelText<HTMLInputElement>("Width").value).toBe("4.5"));
  });

  it("is asked with what is typed, as typed, and says what it was understood as", async () => {
    await opened("ring-blank");
    const size = screen.getByLabelText("Ring size");
    await user.clear(size);
    await user.type(size, "UK N");
    await waitFor(() => expect(latest("ring-blank")).toMatchObject({ size: "UK N" }));
    await waitFor(() => expect(screen.getByText(/US 7: 17.32 mm inside/)).toBeTruthy());
  });

  it("leaves out what is left empty", async () => {
    await opened("ring-blank");
    await user.clear(await screen.findByLabelText("Ring size"));
    await user.type(await screen.findByLabelText("or inner diameter"), "17");
    await waitFor(() => expect(latest("ring-blank")).toMatchObject({ inner_diameter_mm: "17" }));
    expect(latest("ring-blank")).not.toHaveProperty("size");
  });

  it("tells what is wrong beside its own field, and the last answer stands greyed", async () => {
    const refused = new Refused(
      "bad-quantity",
      422,
      "thickness_mm",
      "a thickness is more than 0",
      "Type it in mm.",
    );
    await opened("ring-blank", {
      "POST /api/sizes/ring-blank": ({ body }: Asked) =>
        (body as { typed: { thickness_mm: string } }).typed.thickness_mm === "0" ? refused : ANSWER,
    });
    await screen.findByTestId("main-result");
    const field = screen.getByLabelText("Thickness");
    await user.clear(field);
    await user.type(field, "0");
    expect(await screen.findByText("a thickness is more than 0. Type it in mm.")).toBeTruthy();
    expect(field.getAttribute("aria-invalid")).toBe("true");
    await waitFor(() =>
      expect(screen.getByTestId("main-result").closest("[aria-busy]")?.getAttribute("aria-busy")).toBe(
        "true",
      ),
    );
    await waitFor(() => expect(screen.queryByRole("alert")).toBeNull());
  });

  it("tells above the answer what belongs to no field", async () => {
    await opened("ring-blank", {
      "POST /api/sizes/ring-blank": new Refused(
        "missing",
        422,
        "",
        "a ring has a size or a diameter",
        "Type one.",
      ),
    });
    expect((await screen.findByRole("alert")).textContent).toBe("A ring has a size or a diameter. Type one.");
  });

  it("shows the newest answer, whichever comes last", async () => {
    const waiting: ((told: SizeAnswer) => void)[] = [];
    await opened("ring-blank", {
      "POST /api/sizes/ring-blank": () =>
        new Promise((tell) => waiting.push(tell as (told: SizeAnswer) => void)),
    });
    await waitFor(() => expect(waiting).toHaveLength(1));
    await user.type(await screen.findByLabelText("Width"), "4");
    await waitFor(() => expect(waiting).toHaveLength(2));
    const told = (text: string): SizeAnswer => ({
      ...ANSWER,
      values: [{ ...(ANSWER.values[0] as SizeAnswer["values"][number]), text }],
    });
    waiting[1]?.(told("new"));
    await waitFor(() => expect(screen.getByTestId("main-result").textContent).toBe("new"));
    waiting[0]?.(told("old"));
    await new Promise((done) => setTimeout(done));
    await waitFor(() => expect(screen.getByTestId("main-result").textContent).toBe("new"));
  });

  it("keeps what was typed while another is looked at, and begins again when told to", async () => {
    await opened("ring-blank");
    await user.type(await screen.findByLabelText("Width"), "4.5");
    cleanup();
    await opened("ring-blank");
    await waitFor(() => expect(screen.getByLabelText<HTMLInputElement>("Width").value).toBe("4.5"));
    await user.click(await screen.findByRole("button", { name: "Begin again" }));
    await waitFor(() => expect(screen.getByLabelText<HTMLInputElement>("Width").value).toBe(""));
  });

  it("asks for a kind first, then for its measures", async () => {
    await opened("chain");
    expect(latest("chain")).toMatchObject({
      link: { kind: "oval", inner_length_mm: "6", inner_width_mm: "3.5" },
    });
    await choose(screen.getByLabelText("Kind"), "round");
    await waitFor(() => expect(screen.queryByLabelText("Inner length")).toBeNull());
    await user.type(await screen.findByLabelText("Inner diameter"), "5");
    await waitFor(() =>
      expect(latest("chain")).toMatchObject({ link: { kind: "round", inner_diameter_mm: "5" } }),
    );
  });

  it("adds a row to a list like the last one, and takes one out", async () => {
    await opened("nest");
    await user.click(await screen.findByRole("button", { name: "Add an outline" }));
    await waitFor(() => expect((latest("nest") as { outlines: unknown[] }).outlines).toHaveLength(2));
    await user.click(await screen.findByRole("button", { name: "Take out outline 1" }));
    await waitFor(() => expect((latest("nest") as { outlines: unknown[] }).outlines).toHaveLength(1));
  });

  it("is kept to a piece as a part, under a name", async () => {
    const lines = recorded<PieceLine[]>("GET /api/pieces");
    await opened("ring-blank", {
      "GET /api/pieces": lines,
      "POST /api/sizes/ring-blank/keep": recorded<PieceView>("GET /api/pieces/4"),
    });
    await user.click(await screen.findByRole("button", { name: "Keep to a piece" }));
    await choose(await screen.findByLabelText("Piece"), "4");
    await user.click(await screen.findByRole("button", { name: "Keep it" }));
    await waitFor(() =>
      expect(askedFor("POST /api/sizes/ring-blank/keep")[0]?.body).toMatchObject({
        piece: 4,
        kept_as: "part",
        name: "Ring",
        typed: { size: "US 9" },
      }),
    );
  });

  it("is printed", async () => {
    const print = vi.fn();
    vi.stubGlobal("print", print);
    await opened("ring-blank");
    await user.click(await screen.findByRole("button", { name: "Print" }));
    expect(print).toHaveBeenCalledOnce();
  });
});
