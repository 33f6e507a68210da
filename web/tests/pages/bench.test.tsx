// @vitest-environment happy-dom
import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import type { BenchView, HouseOverrides } from "../../src/api/types";
import { openAt, user } from "../app";
import { choose, chosenIn, offeredBy } from "../choose";
import { type Asked, askedFor, Refused, recorded, serve, type Told } from "../wire";

afterEach(cleanup);

const BENCH = recorded<BenchView>("GET /api/bench");

/** A server that keeps the bench as it is sent. */
function keeping(house: HouseOverrides = {}, more: Record<string, Told> = {}): { now: () => BenchView } {
  let now = { ...structuredClone(BENCH), house: { ...BENCH.house, ...house }, own_house: house } as BenchView;
  serve({
    "GET /api/bench": () => now,
    "PUT /api/bench": ({ body }: Asked) => {
      const sent = body as { revision: number; house: HouseOverrides; bench: BenchView["own_bench"] };
      if (sent.revision !== now.revision) return new Refused("clash", 409);
      const set = Object.fromEntries(Object.entries(sent.house).filter(([, value]) => value != null));
      now = {
        ...now,
        revision: now.revision + 1,
        own_house: sent.house,
        own_bench: sent.bench,
        house: { ...now.house, ...set },
        bench: { ...now.bench, ...sent.bench },
      } as BenchView;
      return now;
    },
    ...more,
  });
  return { now: () => now };
}

async function opened() {
  openAt("/bench");
  await screen.findByRole("heading", { name: "Bench" });
}

async function retyped(label: string, typed: string) {
  const field = screen.getByLabelText<HTMLInputElement>(label);
  await user.clear(field);
  await user.type(field, typed);
  return field;
}

const sizes = (view: BenchView, kind: string) =>
  (view.own_bench.tools ?? []).filter((tool) => tool.kind === kind).map((tool) => tool.size_mm ?? tool.size);

describe("the numbers of the house", () => {
  it("has the thinnest of each kind of part, one changed and the others as they are", async () => {
    const server = keeping();
    await opened();
    await retyped("Thinnest ear wire, mm", "0.9{Enter}");
    await waitFor(() =>
      expect(server.now().own_house.thinnest_mm).toEqual({
        shank: 1.2,
        post: 0.7,
        prong: 0.8,
        "ear-wire": 0.9,
        "pin-stem": 0.8,
      }),
    );
  });

  it("asks for a fineness, or for none", async () => {
    const server = keeping();
    await opened();
    const title = "Fineness that the assay asks";
    await choose(screen.getByLabelText(title), "number");
    await waitFor(() => expect(server.now().own_house.fineness).toBe(925));
    await retyped(`${title}, ‰`, "800{Enter}");
    await waitFor(() => expect(server.now().own_house.fineness).toBe(800));
    await choose(screen.getByLabelText(title), "off");
    await waitFor(() => expect(server.now().own_house.fineness).toBe("off"));
    expect(screen.queryByLabelText(`${title}, ‰`)).toBeNull();
  });
});

describe("the units of the house", () => {
  it.each([
    ["Lengths", "inch", { units: "inch" }],
    ["Gauge beside it", "no", { gauge_shown: "no" }],
    ["Temperatures", "f", { temperature: "f" }],
    ["Masses", "troy", { mass: "troy" }],
  ])("%s in %s", async (label, value, set) => {
    const server = keeping();
    await opened();
    await choose(screen.getByLabelText(label), value);
    await waitFor(() => expect(server.now().own_house).toMatchObject(set));
  });

  it("show every temperature of the tables in °F, and no °C is left", async () => {
    keeping({ temperature: "f" });
    await opened();
    expect(screen.getByRole("row", { name: /^US hard/i }).textContent).toContain("1450");
    for (const table of screen.getAllByRole("table")) expect(table.textContent).not.toContain("°C");
  });

  it("take a margin as a difference: 9 °F are 5 °C, with no 32 added", async () => {
    const server = keeping({ temperature: "f" });
    await opened();
    expect(screen.getByLabelText<HTMLInputElement>("Margin, °F").value).toBe("9");
    await retyped("Margin, °F", "18{Enter}");
    await waitFor(() => expect(server.now().own_house.margin_c).toBe(10));
  });
});

describe("the minutes of a house", () => {
  it("are offered as the log knows them, where it says otherwise, and taken over", async () => {
    const server = keeping(
      { minutes: { bend: 2 } },
      {
        "GET /api/log/minutes": [
          { kind: "drill", each: 1.4, times: 5 },
          { kind: "bend", each: 2, times: 3 },
        ],
      },
    );
    await opened();
    await user.click(screen.getByText("Minutes for each part, by kind of work"));
    expect(await screen.findByText("The log says 1.4 min, by 5 times.")).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "Take it" }));
    await waitFor(() => expect(server.now().own_house.minutes).toEqual({ bend: 2, drill: 1.4 }));
    await waitFor(() => expect(screen.queryByRole("button", { name: "Take it" })).toBeNull());
  });
});

describe("a house rule", () => {
  it("tells why smiths hold it, and is let go again", async () => {
    const server = keeping();
    await opened();
    const grades = await screen.findByLabelText<HTMLElement>("Grades");
    expect(screen.getByText(/Each softer solder leaves the joins before it firm/)).toBeTruthy();
    await choose(grades, "same-while-held");
    await waitFor(() => expect(server.now().own_house.grade_policy).toBe("same-while-held"));
    expect(await screen.findByText(/A join that is well held stays put/)).toBeTruthy();
    await choose(grades, "");
    await waitFor(() => expect(server.now().own_house.grade_policy).toBeNull());
  });

  it("is undone by its button and by its key", async () => {
    const server = keeping();
    await opened();
    await choose(await screen.findByLabelText("Grades"), "easiest-that-serves");
    await waitFor(() => expect(server.now().own_house.grade_policy).toBe("easiest-that-serves"));
    await waitFor(() =>
      expect(screen.getByRole("button", { name: "Undo" }).hasAttribute("disabled")).toBe(false),
    );
    fireEvent.keyDown(document.body, { key: "z", ctrlKey: true });
    await waitFor(() => expect(server.now().own_house.grade_policy).toBeUndefined());
    await waitFor(() =>
      expect(screen.getByRole("button", { name: "Undo" }).hasAttribute("disabled")).toBe(true),
    );
  });
});

describe("the tools at hand", () => {
  it("are a line of sizes for each kind, read in the trade's units and kept the smallest first", async () => {
    const server = keeping();
    await opened();
    expect(screen.getByLabelText<HTMLInputElement>("Dowels").value).toBe("3, 5, 6.5, 9");
    await retyped("Dowels", "9, 1/4 in, 18 ga{Enter}");
    await waitFor(() => expect(sizes(server.now(), "dowel")).toHaveLength(3));
    expect(screen.getByLabelText<HTMLInputElement>("Dowels").value).toBe("1.024, 6.35, 9");
    expect(sizes(server.now(), "mandrel")).toEqual([3.5, 4, 5]);
  });

  it("say which size is none, keep what was typed and send nothing", async () => {
    keeping();
    await opened();
    const field = await retyped("Drills", "0.8, wide{Enter}");
    expect(field.value).toBe("0.8, wide");
    expect(field.getAttribute("aria-invalid")).toBe("true");
    expect(screen.getByText(/a length is a number/)).toBeTruthy();
    expect(askedFor("PUT /api/bench")).toEqual([]);
    await user.type(field, "{Escape}");
    expect(field.value).toMatch(/^0\.8, 1/);
  });

  it("know saw blades by their names", async () => {
    const server = keeping();
    await opened();
    await retyped("Saw blades", "2/0, 4/0{Enter}");
    await waitFor(() => expect(sizes(server.now(), "blade")).toEqual(["2/0", "4/0"]));
  });
});

describe("metal in the drawer", () => {
  it("is put in, in its form, and taken out again", async () => {
    const server = keeping();
    await opened();
    const before = (server.now().own_bench.stock ?? []).length;
    await user.click(screen.getByRole("button", { name: "Add metal" }));
    await choose(screen.getByLabelText("Metal kept"), "copper");
    await choose(screen.getByLabelText("Kept as"), "tube");
    await retyped("How many alike", "4{Enter}");
    await user.click(screen.getByRole("button", { name: "Put it in the drawer" }));
    await waitFor(() => expect(server.now().own_bench.stock).toHaveLength(before + 1));
    expect(server.now().own_bench.stock?.at(-1)).toMatchObject({
      metal: "copper",
      count: 4,
      form: { kind: "tube" },
    });
    const out = await screen.findAllByRole("button", { name: /^Take out copper tube/i });
    await user.click(out.at(-1) as HTMLElement);
    await waitFor(() => expect(server.now().own_bench.stock).toHaveLength(before));
  });

  it("and scrap by its alloy: 0 g takes it out", async () => {
    const server = keeping();
    await opened();
    const scrap = () => (server.now().own_bench.scrap ?? []).map((one) => one.metal);
    const before = scrap();
    await choose(screen.getByLabelText("Another alloy"), "brass-c260");
    await waitFor(() => expect(scrap()).toEqual([...before, "brass-c260"]));
    const field = await screen.findByLabelText("Yellow brass 70/30, g");
    await user.clear(field);
    await user.type(field, "0{Enter}");
    await waitFor(() => expect(scrap()).toEqual(before));
  });
});

describe("what is at hand", () => {
  it.each([
    ["Torch and tip", { torch: "butane-pencil" }],
    ["Surface", { surface: "steel-mesh" }],
  ])("%s is chosen", async (label, set) => {
    const server = keeping();
    await opened();
    const [, value] = Object.entries(set)[0] as [string, string];
    const field = await screen.findByLabelText<HTMLElement>(label);
    const other = offeredBy(field)
      .map((one) => one.value)
      .find((one) => one !== chosenIn(field));
    const wanted = offeredBy(field).some((one) => one.value === value) ? value : (other as string);
    await choose(field, wanted);
    await waitFor(() => expect(Object.values(server.now().own_bench)).toContain(wanted));
  });
});

describe("a bench that another page has changed", () => {
  it("is told as a clash, and shown as it stands", async () => {
    keeping({}, { "PUT /api/bench": new Refused("clash", 409, "revision", "the bench is as it was read") });
    await opened();
    await choose(screen.getByLabelText("Lengths"), "inch");
    expect(await screen.findByText(/the bench is as it was read/)).toBeTruthy();
    expect(chosenIn(screen.getByLabelText<HTMLElement>("Lengths"))).toBe("mm");
  });
});

describe("the rules of judgement", () => {
  it("are found by any word, and tell what each says where it speaks", async () => {
    serve({ "GET /api/rules": recorded("GET /api/rules") });
    openAt("/rules");
    await screen.findByText("remelt flows");
    const all = screen.getAllByRole("listitem").length;
    fireEvent.keyDown(document.body, { key: "/" });
    expect(document.activeElement).toBe(screen.getByPlaceholderText("Find"));
    await user.keyboard("nothing holds run again");
    const found = screen.getAllByRole("listitem");
    expect(found.length).toBeLessThan(all);
    expect(within(found[0] as HTMLElement).getByText(/“Rim must not run again/)).toBeTruthy();
    await user.keyboard(" zebra");
    expect(screen.getByText("No rule holds these words.")).toBeTruthy();
  });
});

describe("the pot", () => {
  const pot = {
    loads: 41,
    early: 3,
    too_long: 1,
    minutes: 6.5,
    pace: null,
    copper: null,
    copper_limit_g_l: 30,
    mix_g_per_l: 120,
    low_c: 20,
    high_c: 70,
    usual_c: 60,
  };
  const kept = (own: object, told: object = {}) => {
    const server = keeping({}, { "GET /api/pot": { ...pot, ...told } });
    server.now().bench.pot = { copper_g_l: 0, iron_touched: false, ...own } as never;
    return server;
  };

  it("tells what went through it since it was mixed, and what came of that", async () => {
    kept({ mixed_on: "2026-09-03" });
    await opened();
    expect((await screen.findByText(/41 loads/)).textContent).toBe(
      "41 loads, 6.5 min at the middle since it was mixed on 3 September 2026; 3 out before their time; 1 left three times too long.",
    );
    expect(screen.queryByRole("alert")).toBe(null);
  });

  it.each([
    [{ copper_g_l: 25 }, /nearly spent: 25 of 30/],
    [{ copper_g_l: 30 }, /It is spent/],
    [{ iron_touched: true }, /pink skin brushes off/],
  ])("of %j says what to do", async (own, words) => {
    kept(own);
    await opened();
    expect((await screen.findByRole("alert")).textContent).toMatch(words);
  });

  it("tells its copper by its loads since that was measured, and when it is spent", async () => {
    kept({ copper_g_l: 10 }, { copper: { now_g_l: 15, loads_left: 60 } });
    await opened();
    expect((await screen.findByText(/By its loads/)).textContent).toMatch(/15 g\/l.*some 60 more/);
    cleanup();
    kept({ copper_g_l: 10 }, { copper: { now_g_l: 26, loads_left: 3 } });
    await opened();
    expect((await screen.findByRole("alert")).textContent).toMatch(/nearly spent: 26 of 30.*by its loads/);
  });

  it("is reckoned with as its own loads have it once that is asked, and as a fresh one again", async () => {
    const server = kept({ pace: 1.2 }, { pace: 1.5 });
    await opened();
    await screen.findByText(/take 1.5 times as long/);
    await user.click(screen.getByRole("button", { name: "Reckon with that" }));
    await waitFor(() => expect(server.now().own_bench.pot?.pace).toBe(1.8));
    expect(server.now().own_bench.pot?.paced_at).toBeTruthy();
    await user.click(screen.getByRole("button", { name: "As a fresh one" }));
    await waitFor(() => expect(server.now().own_bench.pot).toMatchObject({ pace: 1, paced_at: null }));
  });

  it.each([1.1, 0.9, null])("does not ask for a pace of %s", async (pace) => {
    kept({}, { pace });
    await opened();
    await screen.findByText(/41 loads/);
    expect(screen.queryByRole("button", { name: "Reckon with that" })).toBe(null);
  });

  it.each([
    ["Strength, % of the usual", "80", { strength_pct: 80 }],
    ["Kept at, as usual, °C", "50", { bath_c: 50 }],
    ["In the pot, litres", "1.5", { litres: 1.5 }],
  ])("%s is kept", async (label, typed, told) => {
    const server = kept({});
    await opened();
    await screen.findByText(/41 loads/);
    const field = await retyped(label, typed);
    fireEvent.blur(field);
    await waitFor(() => expect(server.now().own_bench.pot).toMatchObject(told));
  });

  it("keeps when its copper was measured, and when it was mixed", async () => {
    const server = kept({});
    await opened();
    await user.type(await retyped("Copper in the pot, g/l", "12"), "{Enter}");
    await waitFor(() => expect(server.now().own_bench.pot?.copper_at).toBeTruthy());
    fireEvent.change(screen.getByLabelText("Mixed on"), { target: { value: "2026-11-20" } });
    await waitFor(() => expect(server.now().own_bench.pot?.mixed_on).toBe("2026-11-20"));
  });

  it("is mixed anew only after the safety lines, acid into water among them", async () => {
    const server = kept({ copper_g_l: 28, iron_touched: true, litres: 2 });
    await opened();
    await user.click(screen.getByRole("button", { name: "Mix a new one" }));
    const told = within(await screen.findByRole("dialog", { name: "A new pickle" }));
    expect(told.getByText(/Never water into acid/)).toBeTruthy();
    expect(told.getByText(/not into the drain/)).toBeTruthy();
    expect(told.getByText(/usually 240 g for what the pot holds/)).toBeTruthy();
    await user.click(told.getByRole("button", { name: "Not now" }));
    expect(askedFor("PUT /api/bench")).toEqual([]);
    await user.click(screen.getByRole("button", { name: "Mix a new one" }));
    await user.click(await screen.findByRole("button", { name: "It is mixed" }));
    await waitFor(() =>
      expect(server.now().own_bench.pot).toMatchObject({ copper_g_l: 0, iron_touched: false, litres: 2 }),
    );
    expect(server.now().own_bench.pot?.mixed_on).toBe(new Date().toISOString().slice(0, 10));
  });
});
