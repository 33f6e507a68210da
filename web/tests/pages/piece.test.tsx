// @vitest-environment happy-dom
import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type {
  Caution,
  Join,
  LineView,
  Part,
  PieceDocument,
  PieceView,
  ProposalView,
  RunView,
} from "../../src/api/types";
import { openAt, user } from "../app";
import { choose, offeredBy } from "../choose";
import { type Asked, askedFor, Refused, recorded, serve, type Told } from "../wire";

afterEach(cleanup);
beforeEach(() => localStorage.clear());

const VIEW = recorded<PieceView>("GET /api/pieces/4");
const CUTTING = recorded("GET /api/pieces/4/cutting");

/** A server that keeps what is sent, revision by revision, as the real one does; its plan stays. */
function editing(view: PieceView = VIEW, more: Record<string, Told> = {}): { now: () => PieceView } {
  let now = structuredClone(view);
  const keep = (document: PieceDocument, undo_what: string | null) => {
    now = { ...now, revision: now.revision + 1, document, undo_what };
    return now;
  };
  serve({
    "GET /api/pieces/4": () => now,
    "GET /api/pieces/4/cutting": CUTTING,
    "PUT /api/pieces/4": ({ body }: Asked) => {
      const sent = body as { revision: number; document: PieceDocument; what: string };
      return sent.revision === now.revision ? keep(sent.document, sent.what) : new Refused("clash", 409);
    },
    "POST /api/pieces/4/undo": () => keep(view.document, null),
    "GET /api/pieces/4/why/stem-on": { join: "stem-on", title: "Stem overlay", alternatives: [] },
    "GET /api/pieces/4/why/hinge": { join: "hinge", title: "Hinge foot", alternatives: [] },
    ...more,
  });
  return { now: () => now };
}

const joinOf = (view: PieceView, id: string) => view.document.joins.find((join) => join.id === id) as Join;

/** Open the row of a part, a join or other work. */
function openRow(title: string): Promise<void> {
  const rows = within(screen.getByRole("region", { name: "Parts and joins" })).getAllByRole("button", {
    expanded: false,
  });
  const row = rows.find((one) => new RegExp(`^[\\d×]*${title}`).test(one.textContent ?? ""));
  if (!row) throw new Error(`no row of ${title}`);
  return user.click(row);
}

async function opened(row?: string) {
  const { where } = openAt("/work/4");
  await screen.findByRole("heading", { name: "Parts" });
  if (row) await openRow(row);
  return { where };
}

describe("the head of a piece", () => {
  it("tells what matters: heats, how good the plan is, minutes, parts and joins", async () => {
    editing();
    await opened();
    await waitFor(() =>
      expect(screen.getByText(/^2 heats: none fewer · about \d+ min · 5 parts · 4 joins$/)).toBeTruthy(),
    );
  });

  it("is renamed in place; an empty name is none", async () => {
    const server = editing();
    await opened();
    const name = screen.getByLabelText<HTMLInputElement>("Name of the piece");
    await user.clear(name);
    await user.tab();
    expect(name.value).toBe("Reed brooch");
    await user.clear(name);
    await user.type(name, "Sedge brooch{Enter}");
    await waitFor(() => expect(server.now().document.name).toBe("Sedge brooch"));
    expect(askedFor("PUT /api/pieces/4")).toHaveLength(1);
  });

  it("undoes by its key what it names, and offers none where there is none", async () => {
    const server = editing();
    await opened();
    const undo = screen.getByRole("button", { name: "Undo" });
    expect(undo.hasAttribute("disabled")).toBe(true);
    fireEvent.keyDown(document.body, { key: "z", ctrlKey: true });
    await user.type(await screen.findByLabelText("Name of the piece"), "es{Enter}");
    await waitFor(() => expect(undo.getAttribute("aria-description")).toBe("Undo: renamed"));
    fireEvent.keyDown(document.body, { key: "z", ctrlKey: true });
    await waitFor(() => expect(server.now().document.name).toBe("Reed brooch"));
    expect(askedFor("POST /api/pieces/4/undo")).toHaveLength(1);
  });

  it("starts a run and goes to the torch", async () => {
    const run = recorded<RunView>("GET /api/runs/{key} at prepare");
    editing(VIEW, { "POST /api/runs": run, "GET /api/runs/1": run });
    const { where } = await opened();
    await user.click(await screen.findByRole("button", { name: "Start a run" }));
    await waitFor(() => expect(where()).toBe("/run/1"));
    expect(askedFor("POST /api/runs")[0]?.body).toEqual({ piece: 4, confirmed: [] });
  });

  it("starts against a rule when that has been read and ticked, and not before", async () => {
    const run = recorded<RunView>("GET /api/runs/{key} at prepare");
    const stop: Caution = {
      code: "torch-too-small",
      severity: "stop",
      step: 4,
      about: ["rim"],
      text: "The work settles at 640 °C.",
      remedy: "A bigger tip",
    };
    const against = { ...VIEW, plan: { ...VIEW.plan, stops: [stop] } };
    editing(against, { "POST /api/runs": run, "GET /api/runs/1": run });
    const { where } = await opened();
    await waitFor(() => expect(screen.getByText(/1 rule against it/)).toBeTruthy());
    await user.click(await screen.findByRole("button", { name: "Start a run" }));
    await waitFor(() => expect(screen.getByText("The work settles at 640 °C.")).toBeTruthy());
    const all = screen.getByRole<HTMLButtonElement>("button", { name: "Start all the same" });
    expect(all.disabled).toBe(true);
    await user.click(await screen.findByLabelText("I go on all the same"));
    await user.click(all);
    await waitFor(() => expect(where()).toBe("/run/1"));
    expect(askedFor("POST /api/runs")[0]?.body).toEqual({
      piece: 4,
      confirmed: [{ code: "torch-too-small", step: 4 }],
    });
  });

  it("tells why no run begins, and stays", async () => {
    editing(VIEW, { "POST /api/runs": new Refused("unplanned", 409, "", "a run follows a plan") });
    const { where } = await opened();
    await user.click(await screen.findByRole("button", { name: "Start a run" }));
    expect(await screen.findByText(/a run follows a plan/)).toBeTruthy();
    expect(where()).toBe("/work/4");
  });
});

describe("the rows of a piece", () => {
  it("come with a part that is added, and go with it", async () => {
    const server = editing();
    await opened();
    await choose(screen.getByRole("button", { name: "Add a part" }), "ball");
    await waitFor(() => expect(server.now().document.parts).toHaveLength(6));
    const added = server.now().document.parts[5] as Part;
    expect(added.form.kind).toBe("ball");
    const open = screen.getByRole("button", { expanded: true });
    expect(open.textContent).toMatch(/ball/i);
    await user.click(await screen.findByRole("button", { name: /take .*out/i }));
    await waitFor(() => expect(server.now().document.parts).toHaveLength(5));
    expect(server.now().document.parts.map((part) => part.id)).not.toContain(added.id);
  });
});

describe("what is there already", () => {
  it("is told of a join with the solder that it was made with, and taken back", async () => {
    const server = editing();
    await opened("Stem overlay");
    await user.click(await screen.findByLabelText("made already"));
    await choose(screen.getByLabelText("Made with"), "us-easy");
    await waitFor(() =>
      expect(joinOf(server.now(), "stem-on")).toMatchObject({ made: true, solder: "us-easy", grade: null }),
    );
    await waitFor(() => expect(screen.queryByLabelText("Solder")).toBe(null));
    await user.click(await screen.findByLabelText("made already"));
    await waitFor(() => expect(joinOf(server.now(), "stem-on")).toMatchObject({ made: false, solder: null }));
    await waitFor(() => expect(screen.getByLabelText("Solder")).toBeTruthy());
  });
});

describe("what goes wrong while editing", () => {
  it("is told, and what was typed is still there as a draft", async () => {
    editing(VIEW, {
      "PUT /api/pieces/4": new Refused("clash", 409, "revision", "the piece is as it was read"),
    });
    await opened("Reed plate");
    await user.click(await screen.findByLabelText("springy"));
    expect(await screen.findByText(/the piece is as it was read/)).toBeTruthy();
    expect(await screen.findByText(/Changes that were not saved are still here/)).toBeTruthy();
  });

  it("is a value that makes no sense: told, and not offered again", async () => {
    const refused = new Refused("out-of-range", 422, "parts[0].count", "a count is at most 500");
    editing(VIEW, { "PUT /api/pieces/4": refused });
    await opened("Reed plate");
    await user.click(await screen.findByLabelText("springy"));
    expect(await screen.findByText(/a count is at most 500/)).toBeTruthy();
    await waitFor(() => expect(screen.getByLabelText("springy").getAttribute("aria-checked")).toBe("false"));
    await waitFor(() => expect(screen.queryByText(/Changes that were not saved/)).toBeNull());
  });

  it("is a piece that there is not", async () => {
    serve({ "GET /api/pieces/9": new Refused("not-found", 404, "9", "the piece is kept") });
    openAt("/work/9");
    expect(await screen.findByText(/the piece is kept/)).toBeTruthy();
  });
});

describe("the ladder of a piece", () => {
  const ladder = () => screen.getByRole("region", { name: "Heat ladder" });
  const heat = (n: number) =>
    within(ladder()).getByRole("button", { name: new RegExp(`^Heat ${String(n)}:`) });

  it("shows the heat that is chosen in words: why this grade, and what to mind", async () => {
    editing();
    await opened();
    const detail = within(within(ladder()).getByRole("complementary", { name: "The chosen heat" }));
    expect(detail.getByRole("heading", { name: "Heat 1 · Stem overlay" })).toBeTruthy();
    expect(detail.getByText(/Hard: the hardest at hand that suits/)).toBeTruthy();
    await user.click(heat(2));
    expect(detail.getByText(/Medium, since hard would bring Stem overlay to 798 °C/)).toBeTruthy();
    expect(detail.getByText("Hinge foot")).toBeTruthy();
    expect(detail.getAllByText(/medium, [23] chips of 1 × 1 mm/)).toHaveLength(2);
  });

  it("takes another flame, flux and placing for one heat alone", async () => {
    const server = editing();
    await opened();
    await user.click(heat(2));
    const detail = within(ladder()).getByRole("complementary", { name: "The chosen heat" });
    await user.click(await within(detail).findByText("For this heat alone"));
    await choose(within(detail).getByLabelText("Flame from"), "below");
    await choose(await within(detail).findByLabelText("Flux"), "borax-paste");
    await choose(within(detail).getByLabelText("Placing"), "paste");
    const own = () => server.now().document.joins.filter((join) => ["hinge", "catch-on"].includes(join.id));
    await waitFor(() =>
      expect(own()).toMatchObject([
        { heat_from: "below", flux: "borax-paste", placing: "paste" },
        { heat_from: "below", flux: "borax-paste", placing: "paste" },
      ]),
    );
    expect(server.now().document.joins.find((join) => join.id === "stem-on")?.flux ?? null).toBeNull();
    await choose(within(detail).getByLabelText("Flux"), "");
    await waitFor(() => expect(own().map((join) => join.flux)).toEqual([null, null]));
  });

  it("steps the grade of the chosen join by hand", async () => {
    const server = editing();
    await opened();
    await user.click(heat(1));
    await user.click(within(ladder()).getByRole("button", { name: /Softer/ }));
    await waitFor(() => expect(joinOf(server.now(), "stem-on").by_hand?.grade).toBe("medium"));
    expect(server.now().undo_what).toBe("a softer grade by hand");
  });

  it("moves a join to a heat of its own, and tells it as a move by hand that can be taken back", async () => {
    const server = editing();
    await opened();
    await user.click(heat(2));
    const move = within(ladder()).getByLabelText<HTMLElement>("Move to another heat");
    expect(offeredBy(move).map((one) => one.words)).toEqual([
      "Move to…",
      "heat 1, with Stem overlay",
      "a heat of its own, after heat 2",
      "a heat of its own, before heat 2",
    ]);
    await choose(move, "a heat of its own, after heat 2");
    await waitFor(() => expect(server.now().document.joins.some((join) => join.by_hand)).toBe(true));
    expect(await screen.findByRole("status", { name: "By hand" })).toBeTruthy();
    fireEvent.keyDown(document.body, { key: "b" });
    await waitFor(() => expect(server.now().document.joins.some((join) => join.by_hand)).toBe(false));
  });

  it("of a piece without joins says what brings the first heat", async () => {
    const bare = { ...VIEW, document: { ...VIEW.document, joins: [], work: [] } };
    editing({ ...bare, plan: { ...VIEW.plan, steps: [], why: [], cautions: [] } });
    await opened();
    expect(within(ladder()).getByText("No heat yet.")).toBeTruthy();
    expect(within(ladder()).getByText(/Add a join above/)).toBeTruthy();
  });

  it("of a piece that cannot be planned tells the demands, and takes a way out by its letter", async () => {
    const demand = {
      code: "order",
      kind: "order",
      ids: ["stem-on", "hinge"],
      text: "Hinge foot comes after Stem overlay",
      remedy: "Let it go",
    };
    const conflict = { demands: [demand], undecided: false };
    const plan = { ...VIEW.plan, status: "impossible", steps: [], why: [], cautions: [], conflict };
    const server = editing({ ...VIEW, plan } as unknown as PieceView);
    await opened();
    const alert = within(ladder()).getByRole("alert");
    await waitFor(() => expect(within(alert).getByText("Hinge foot comes after Stem overlay")).toBeTruthy());
    const way = within(alert).queryAllByRole("button");
    expect(way.length).toBeGreaterThan(0);
    fireEvent.keyDown(document.body, { key: "a" });
    await waitFor(() => expect(joinOf(server.now(), "hinge").after).toEqual([]));
  });
});

describe("the cut and solder list of a piece", () => {
  it("adds up the metal, and tells each cut and each solder", async () => {
    editing();
    await opened();
    const band = within(screen.getByRole("region", { name: "Cut and solder list" }));
    const rows = (await band.findAllByRole("row")).slice(1).map((one) => one.textContent ?? "");
    expect(rows.map((row) => row.split(/Sterling|Nickel/)[0])).toEqual([
      "Reed plate",
      "Raised stem",
      "Hinge knuckle",
      "Catch",
      "Pin stem",
    ]);
    expect(band.getByText("Metal in all").parentElement?.textContent).toMatch(/\d+\.\d+ g$/);
    expect(band.getByText("15 chips", { exact: false })).toBeTruthy();
  });
});

const LINES = recorded<LineView[]>("POST /api/lines");
const PROPOSED = recorded<ProposalView>("POST /api/proposal");
const lines = (...read: LineView[]) => ({
  "POST /api/lines": () => read,
  "POST /api/lines/of": ["wire 1 × 9"],
});

describe("a part said in a line", () => {
  const [disc] = LINES;
  if (!disc) throw new Error("a line was recorded");
  const field = () => screen.getByLabelText("Say a part");

  it("shows what was understood while it is typed, and Enter adds it", async () => {
    const { now } = editing(VIEW, lines(disc));
    await opened();
    await user.type(field(), "disc 14");
    expect(await screen.findByText("domed 4 mm")).toBeTruthy();
    await user.type(field(), "{Enter}");
    await waitFor(() => expect(now().document.parts.at(-1)).toEqual(disc.part));
    expect((field() as HTMLInputElement).value).toBe("");
  });
  it("underlines what was not understood and keeps it", async () => {
    const fault = {
      code: "not-understood",
      path: "line[5:11]",
      value: "doomed",
      rule: "each word is known",
      remedy: "Did you mean domed?",
    };
    const { now } = editing(
      VIEW,
      lines({ ...disc, line: "disc doomed", part: null, picture: null, faults: [fault] }),
    );
    await opened();
    await user.type(field(), "disc doomed");
    const told = await screen.findByRole("alert");
    await waitFor(() => expect(within(told).getByText("doomed").tagName).toBe("U"));
    expect(told.textContent).toContain("Did you mean domed?");
    await user.type(field(), "{Enter}");
    await waitFor(() => expect((field() as HTMLInputElement).value).toBe("disc doomed"));
    expect(now().document.parts).toHaveLength(VIEW.document.parts.length);
  });
  it("makes a part of each of several lines that are pasted, as one change", async () => {
    const { now } = editing(VIEW, lines(...LINES));
    await opened();
    field().focus();
    await user.paste("disc 14 × 0.5\npost 0.9 × 11\n");
    await waitFor(() => expect(now().document.parts).toHaveLength(VIEW.document.parts.length + 2));
    expect(now().undo_what).toBe("added 2 parts");
  });
});

describe("joining by pointing", () => {
  const serving = () => editing(VIEW, { "POST /api/proposal": PROPOSED });

  it("goes by two letters and Enter alone", async () => {
    const { now } = serving();
    await opened();
    await user.keyboard("j");
    await waitFor(() => expect(screen.getByText(/Point at a part/)).toBeTruthy());
    await user.keyboard("a");
    await waitFor(() => expect(screen.getByText(/with which other/)).toBeTruthy());
    await user.keyboard("s");
    expect(await screen.findByText("Post stands on Disc")).toBeTruthy();
    const [first, second] = VIEW.document.parts;
    expect(askedFor("POST /api/proposal")[0]?.body).toMatchObject({ a: first?.id, b: second?.id });
    await user.keyboard("{Enter}");
    await waitFor(() => expect(now().document.joins.at(-1)?.id).toBe(PROPOSED.join.id));
    await waitFor(() => expect(screen.queryByText("Post stands on Disc")).toBeNull());
  });
  it("goes by clicks, and the same part twice closes it on itself", async () => {
    serving();
    await opened();
    await user.click(await screen.findByRole("button", { name: /Join parts/ }));
    const part = within(screen.getByRole("group", { name: "The piece to scale" })).getByRole("button", {
      name: "Part Hinge knuckle",
    });
    await user.click(part);
    await user.click(part);
    await screen.findByText("Post stands on Disc");
    expect(askedFor("POST /api/proposal")[0]?.body).toMatchObject({ a: "knuckle", b: "knuckle" });
  });
  it("is left off by Escape and changes nothing", async () => {
    const { now } = serving();
    await opened();
    await user.keyboard("ja{Escape}");
    await waitFor(() => expect(screen.queryByText(/Point at a part/)).toBeNull());
    expect(now().revision).toBe(VIEW.revision);
  });
  it("tells why two parts are not joined, and points again", async () => {
    editing(VIEW, {
      "POST /api/proposal": new Refused("contradiction", 422, "b", "a stone bears no heat", "Set it."),
    });
    await opened();
    await user.keyboard("jas");
    expect(await screen.findByText(/a stone bears no heat/)).toBeTruthy();
    await waitFor(() => expect(screen.getByText(/Point at a part/)).toBeTruthy());
  });
});

describe("a part on the picture", () => {
  it("is moved and turned by keys, each step a change of its own", async () => {
    const { now } = editing();
    await opened();
    const id = VIEW.document.parts[0]?.id;
    const before = VIEW.picture.parts.find((part) => part.part === id);
    const title = VIEW.document.parts[0]?.name ?? "";
    screen.getAllByRole("button", { name: `Part ${title}` })[0]?.focus();
    await user.keyboard("{ArrowRight}");
    await waitFor(() =>
      expect(now().document.parts[0]?.place?.x_mm).toBeCloseTo((before?.x_mm ?? 0) + 0.5, 1),
    );
    await user.keyboard("]");
    await waitFor(() => expect(now().document.parts[0]?.place?.turn_deg).toBe(15));
    expect(now().undo_what).toBe(`moved ${title}`);
  });
});

describe("the parts as lines", () => {
  it("stand there to be copied, and what is changed in them changes the parts, as one change", async () => {
    const written = VIEW.document.parts.map((part) => `ball 2 "${part.name}"`);
    const [disc] = LINES;
    const { now } = editing(VIEW, {
      "POST /api/lines/of": written,
      "POST /api/lines": ({ body }: Asked) => [
        { ...disc, part: { ...(body as { base: Part | null }).base, ...disc?.part, id: "said" } },
      ],
    });
    await opened();
    await user.click(await screen.findByRole("button", { name: "As lines" }));
    const lines = (await screen.findByLabelText("The parts, a line each")) as HTMLTextAreaElement;
    await waitFor(() => expect(lines.value).toBe(written.join("\n")));
    await user.type(lines, "\ndisc 14 × 0.5");
    await user.click(await screen.findByRole("button", { name: "Take the lines" }));
    await waitFor(() => expect(now().document.parts.at(-1)?.id).toBe("said"));
    expect(now().document.parts).toHaveLength(VIEW.document.parts.length + 1);
    expect(now().document.parts.slice(0, -1)).toEqual(VIEW.document.parts);
  });
});

it("a wire is bent to a bend by its name, as long as it is", async () => {
  const stem = VIEW.document.parts.find((part) => part.id === "pin");
  const path = [
    [-3, 4],
    [0, -3],
    [3, 12],
  ];
  const { now } = editing(VIEW, { "POST /api/bend": () => ({ ...stem?.form, path }) });
  await opened("Pin stem");
  await choose(screen.getByRole("button", { name: "bend to …" }), "hook");
  await waitFor(() =>
    expect(now().document.parts.find((part) => part.id === "pin")?.form).toMatchObject({ path }),
  );
  expect(askedFor("POST /api/bend")[0]?.body).toMatchObject({ bend: "hook", form: { length_mm: 46 } });
});
