// @vitest-environment happy-dom
import { cleanup, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { PieceView, StartTyped, StartView } from "../../src/api/types";
import { findStarts, groupsOf, sayMeasure } from "../../src/begin/find";
import { sayMiniature } from "../../src/begin/Ladderlet";
import { METRIC } from "../../src/parts/units";
import { openAt, user } from "../app";
import { askedFor, Refused, recorded, serve } from "../wire";

afterEach(cleanup);
beforeEach(() => localStorage.clear());

const STARTS = recorded<StartView[]>("GET /api/starts");
const TYPED = recorded<StartTyped>("POST /api/starts/band/typed");
const VIEW = recorded<PieceView>("GET /api/pieces/4");
const OPENED = {
  "GET /api/pieces/4": VIEW,
  "GET /api/pieces/4/cutting": recorded("GET /api/pieces/4/cutting"),
};

describe("starts", () => {
  it.each([
    ["ring stone", ["bezel-ring"]],
    ["earring hollow", ["hollow-stud"]],
    ["ring", ["band", "bezel-ring"]],
    ["anvil", []],
  ])("are found by words: %s", (words, names) => {
    const found = findStarts(STARTS, words).map((start) => start.info.name);
    expect(found.slice(0, names.length)).toEqual(names);
    if (names.length === 0) expect(found).toEqual([]);
  });
  it("stand in their groups", () => {
    expect(groupsOf(STARTS).map(([group, list]) => [group, list.length])).toEqual([
      ["Rings", 2],
      ["Earrings", 1],
    ]);
  });
  it("say their measures as the house types them", () => {
    const width = STARTS[0]?.info.asks.find((ask) => ask.key === "width_mm");
    if (!width) throw new Error("a band has a width");
    expect(sayMeasure(width, 6.35, METRIC)).toBe("6.35");
    expect(sayMeasure(width, 6.35, { ...METRIC, units: "inch" })).toBe("0.25");
    expect(sayMeasure(width, null, METRIC)).toBe("");
  });
  it("say their plan in a line", () => {
    const plan = {
      status: "best",
      heats: 3,
      grades: ["hard", "medium", "extra-easy"],
      minutes: 67.6,
      grams: 7.42,
    };
    expect(sayMiniature(plan)).toBe("3 heats, hard · medium · extra easy, about 68 min, 7.4 g");
    expect(sayMiniature({ ...plan, status: "impossible" })).toBe("no plan is possible");
  });
});

describe("the gallery", () => {
  it("shows every start, and Enter takes the first that is found", async () => {
    serve({ "GET /api/starts": STARTS, "POST /api/starts/hollow-stud/typed": TYPED });
    const { where } = openAt("/begin");
    await screen.findByText("Plain band");
    await user.type(await screen.findByLabelText("Find a start"), "earring{Enter}");
    await waitFor(() => expect(where()).toBe("/begin/hollow-stud"));
  });
  it("says what to do where nothing is found", async () => {
    serve({ "GET /api/starts": STARTS });
    openAt("/begin");
    await screen.findByText("Plain band");
    await user.type(await screen.findByLabelText("Find a start"), "anvil");
    await waitFor(() => expect(screen.getByText(/No start holds these words/)).toBeTruthy());
  });
  it("begins a piece with nothing in it by its name", async () => {
    serve({ "GET /api/starts": STARTS, "POST /api/pieces": VIEW, ...OPENED });
    const { where } = openAt("/begin");
    await user.type(await screen.findByLabelText("Name of a new piece"), "  Reed brooch {Enter}");
    await waitFor(() => expect(where()).toBe("/work/4"));
    expect(askedFor("POST /api/pieces")[0]?.body).toEqual({ name: "Reed brooch" });
  });
});

describe("a start", () => {
  const served = (more = {}) =>
    serve({ "GET /api/starts": STARTS, "POST /api/starts/band/typed": TYPED, ...OPENED, ...more });

  it("shows what it makes before anything is typed, with the measures that stand for what is not", async () => {
    served();
    openAt("/begin/band");
    expect(await screen.findByText(/1 heat/)).toBeTruthy();
    await waitFor(() => expect(screen.getByLabelText("Width").getAttribute("placeholder")).toBe("5"));
    await waitFor(() => expect((screen.getByLabelText("Width") as HTMLInputElement).value).toBe(""));
  });
  it("is asked with what was typed, and what is emptied again is left to it", async () => {
    served();
    openAt("/begin/band");
    const width = await screen.findByLabelText("Width");
    await user.type(width, "6");
    await waitFor(() =>
      expect(askedFor("POST /api/starts/band/typed").at(-1)?.body).toEqual({
        typed: { size: "US 8 1/2", width_mm: "6" },
        plan: true,
      }),
    );
    await user.clear(width);
    await waitFor(() => expect(screen.getByText(/1 heat/)).toBeTruthy());
  });
  it("tells what is wrong at its field, keeps the drawing, and makes nothing", async () => {
    const fault = {
      code: "not-a-length",
      path: "width_mm",
      value: "wide",
      rule: "a length is a number",
      remedy: "Type 4.",
    };
    let answer: unknown = TYPED;
    served({ "POST /api/starts/band/typed": () => answer });
    openAt("/begin/band");
    await screen.findByText(/1 heat/);
    answer = { asked: null, understood: {}, picture: null, plan: null, faults: [fault] };
    await user.type(await screen.findByLabelText("Width"), "wide");
    expect((await screen.findByRole("alert")).textContent).toBe("A length is a number. Type 4.");
    await waitFor(() => expect(screen.getByText(/1 heat/)).toBeTruthy());
    await waitFor(() =>
      expect(screen.getByRole("button", { name: "Make it" })).toHaveProperty("disabled", true),
    );
  });
  it("makes the piece by Enter and opens it", async () => {
    served({ "POST /api/starts/band/begin": VIEW });
    const { where } = openAt("/begin/band");
    await screen.findByText(/1 heat/);
    await user.type(await screen.findByLabelText("Ring size"), "US 9{Enter}");
    await waitFor(() => expect(where()).toBe("/work/4"));
    expect(askedFor("POST /api/starts/band/begin")[0]?.body).toEqual({
      typed: { size: "US 9", width_mm: 5 },
    });
  });
  it("takes what a calculator found from its address", async () => {
    served();
    openAt("/begin/band?size=US%206&thickness_mm=1.8");
    await screen.findByText(/1 heat/);
    await waitFor(() => expect((screen.getByLabelText("Thickness") as HTMLInputElement).value).toBe("1.8"));
  });
  it("tells why a piece was not made", async () => {
    served({ "POST /api/starts/band/begin": new Refused("contradiction", 422, "width_mm") });
    openAt("/begin/band");
    await screen.findByText(/1 heat/);
    await user.click(await screen.findByRole("button", { name: "Make it" }));
    expect((await screen.findByRole("alert")).textContent).toContain("width_mm");
  });
  it("that is none says so", async () => {
    served();
    openAt("/begin/bend");
    expect(await screen.findByText("There is no start of that name.")).toBeTruthy();
  });
});
