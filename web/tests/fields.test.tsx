// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, render, screen, waitFor, within } from "@testing-library/react";
import { useState } from "react";
import { afterEach, describe, expect, it } from "vitest";
import type { Join, Part, PieceDocument, PieceView, Tables, Work } from "../src/api/types";
import { addWork } from "../src/document/edit";
import type { Edits } from "../src/document/useEdits";
import { JoinFields } from "../src/piece/JoinFields";
import { PartFields } from "../src/piece/PartFields";
import { WorkFields } from "../src/piece/WorkFields";
import { user } from "./app";
import { choose, chosenIn } from "./choose";
import { recorded } from "./wire";

afterEach(cleanup);

const DOCUMENT = recorded<PieceView>("GET /api/pieces/4").document;
const TABLES = recorded<Tables>("GET /api/tables");

type Kept = { now: PieceDocument; told: string[] };

/** The fields of one thing of a document that is kept at once, as a piece that is open keeps it. */
function Opened({ id, kept }: { id: string; kept: Kept }) {
  const [now, setNow] = useState(kept.now);
  const apply: Edits["apply"] = (what, change) => {
    kept.told.push(what);
    kept.now = change(kept.now);
    setNow(kept.now);
  };
  const edits = { apply } as Edits;
  const part = now.parts.find((one) => one.id === id);
  const join = now.joins.find((one) => one.id === id);
  const work = now.work.find((one) => one.id === id);
  if (part) return <PartFields part={part} document={now} tables={TABLES} edits={edits} />;
  if (join) return <JoinFields join={join} document={now} edits={edits} />;
  return work ? <WorkFields work={work} document={now} edits={edits} /> : null;
}

function fields(id: string, document: PieceDocument = DOCUMENT): Kept {
  const kept: Kept = { now: document, told: [] };
  const cache = new QueryClient();
  cache.setQueryData(["bench"], recorded("GET /api/bench"));
  cache.setDefaultOptions({ queries: { staleTime: Number.POSITIVE_INFINITY } });
  render(
    <QueryClientProvider client={cache}>
      <Opened id={id} kept={kept} />
    </QueryClientProvider>,
  );
  return kept;
}

const partOf = (kept: Kept, id: string) => kept.now.parts.find((part) => part.id === id) as Part;
const joinOf = (kept: Kept, id: string) => kept.now.joins.find((join) => join.id === id) as Join;

describe("a part's fields", () => {
  it.each([
    ["Name", "Reed ground{Enter}", { name: "Reed ground" }],
    ["How many alike", "3{Enter}", { count: 3 }],
    ["Thickness", "18 ga{Enter}", { form: { thickness_mm: 1.024 } }],
    ["Domed by", "0{Enter}", { form: { domed_mm: 0 } }],
  ])("%s", async (label, typed, values) => {
    const kept = fields("reeds");
    const field = screen.getByLabelText(label);
    await user.clear(field);
    await user.type(field, typed);
    expect(partOf(kept, "reeds")).toMatchObject(values);
  });

  it.each([
    ["Metal", "Copper", { metal: "copper" }],
    ["Metal", "none: a stone", { metal: null, heat_safe: false }],
    ["Temper", "half-hard", { temper: "half-hard" }],
    ["Form", "tube", { form: { kind: "tube", outer_mm: 3, wall_mm: 0.4, length_mm: 8, sealed_ends: 0 } }],
    ["Outline", "disc", { form: { kind: "sheet", outline: { kind: "disc" } } }],
    ["Place in the picture", "put by hand, upright", { place: { stands: "upright", x_mm: 0 } }],
    ["Place in the picture", "beside what it joins", { place: null }],
  ])("%s becomes %s", async (label, words, values) => {
    const kept = fields("reeds");
    await choose(screen.getByLabelText(label), words);
    expect(partOf(kept, "reeds")).toMatchObject(values);
    expect(kept.told).toHaveLength(1);
  });

  it.each([
    ["stays free to move", { moves: true }],
    ["springy", { spring: true }],
    ["bought", { bought_in: true }],
    ["bears heat", { heat_safe: false }],
  ])("%s is ticked", async (label, values) => {
    const kept = fields("reeds");
    await user.click(await screen.findByLabelText(label));
    expect(partOf(kept, "reeds")).toMatchObject(values);
  });

  it.each([
    ["How many alike", "2.5", "Write a whole number."],
    ["Thickness", "thick", /a length is a number/],
  ])("%s keeps %s as it was typed, says what is wanted and changes nothing", async (label, typed, words) => {
    const kept = fields("reeds");
    const field = screen.getByLabelText<HTMLInputElement>(label);
    await user.clear(field);
    await user.type(field, `${typed}{Enter}`);
    await waitFor(() => expect(screen.getByText(words)).toBeTruthy());
    expect(field.value).toBe(typed);
    expect(kept.told).toEqual([]);
    await user.type(field, "{Escape}");
    expect(field.value).not.toBe(typed);
  });

  it.each([
    ["stem", ["Section", "Section width", "Section height", "Length"]],
    ["knuckle", ["Sealed ends", "Outer diameter", "Wall", "Length"]],
    ["catch", ["Width", "Thickness", "Length"]],
  ])("of %s ask for the measures of its form", (id, labels) => {
    fields(id);
    for (const label of labels) expect(screen.queryAllByLabelText(new RegExp(`^${label}`))).not.toEqual([]);
  });
});

describe("a join's fields", () => {
  it.each([
    ["Kind", "tee", { kind: "tee" }],
    ["Held by", "weighted", { holds: "weighted", bound_with: null }],
    ["On the", "inside", { face: "inside" }],
    ["Solder", "medium", { grade: "medium", solder: null }],
    ["Placing", "fed-wire", { placing: "fed-wire" }],
    ["and", "pin", { between: ["stem", "pin"] }],
    ["Between", "catch", { between: ["catch", "reeds"] }],
  ])("%s becomes %s", async (label, value, values) => {
    const kept = fields("stem-on");
    await choose(screen.getByLabelText(label), value);
    expect(joinOf(kept, "stem-on")).toMatchObject(values);
  });

  it("leave the solder to the plan again", async () => {
    const document = structuredClone(DOCUMENT);
    Object.assign(document.joins[0] as Join, { grade: "easy", placing: "paste" });
    const kept = fields("stem-on", document);
    await choose(screen.getByLabelText("Solder"), "");
    await choose(screen.getByLabelText("Placing"), "");
    expect(joinOf(kept, "stem-on")).toMatchObject({ grade: null, solder: null, placing: null });
  });

  it("ask what it is bound with only where something holds it", async () => {
    const kept = fields("stem-on");
    await waitFor(() => expect(screen.queryByLabelText("Bound with")).toBeNull());
    await choose(screen.getByLabelText("Held by"), "bound");
    await waitFor(() => expect(chosenIn(screen.getByLabelText<HTMLElement>("Bound with"))).toBe("steel"));
    await choose(screen.getByLabelText("Bound with"), "other");
    expect(joinOf(kept, "stem-on")).toMatchObject({ holds: "bound", bound_with: "other" });
  });

  it.each(["fuse", "rivet", "screw", "wrap", "ring-open"])("of a %s ask for no solder", async (kind) => {
    fields("stem-on");
    await waitFor(() => expect(screen.queryByLabelText("Solder")).toBeTruthy());
    await choose(screen.getByLabelText("Kind"), kind);
    await waitFor(() => expect(screen.queryByLabelText("Solder")).toBeNull());
    await waitFor(() => expect(screen.queryByLabelText("Placing")).toBeNull());
  });

  it("put it after another, and take that back", async () => {
    const kept = fields("stem-on");
    const order = within(screen.getByRole("group", { name: "Comes in a later heat than" }));
    await user.click(order.getByLabelText("Catch foot"));
    expect(joinOf(kept, "stem-on").after).toEqual(["catch-on"]);
    await user.click(order.getByLabelText("Catch foot"));
    expect(joinOf(kept, "stem-on").after).toEqual([]);
  });

  it("hang any part in it but those that it joins", async () => {
    const kept = fields("stem-on");
    const hanging = within(screen.getByRole("group", { name: "Hanging in it when it closes" }));
    expect(hanging.queryByLabelText("Reed plate")).toBeNull();
    await user.click(hanging.getByLabelText("Pin stem"));
    expect(joinOf(kept, "stem-on").through).toEqual(["pin"]);
  });

  it("offer each copy of a part that there are several of", async () => {
    const kept = fields("hinge");
    await choose(screen.getByLabelText("Between"), "knuckle#2");
    expect(joinOf(kept, "hinge").between).toEqual(["knuckle#2", "reeds"]);
  });

  it("name the hollow that it closes; blanks are none", async () => {
    const kept = fields("stem-on");
    const hollow = screen.getByLabelText("Closes the hollow called");
    await user.type(hollow, "drop{Enter}");
    expect(joinOf(kept, "stem-on").encloses).toBe("drop");
    await user.clear(hollow);
    await user.type(hollow, "  {Enter}");
    expect(joinOf(kept, "stem-on").encloses).toBeNull();
  });
});

describe("what is seldom told of a join", () => {
  it.each([
    ["Gap, mm", "0.05", { gap_mm: 0.05 }],
    ["Contact, mm²", "12", { contact_mm2: 12 }],
    [
      "Where, across and down in mm",
      "4 -2, 8 -2",
      {
        at: [
          [4, -2],
          [8, -2],
        ],
      },
    ],
    ["Where, across and down in mm", "4 -2", { at: [4, -2] }],
  ])("%s is %s", async (label, typed, values) => {
    const kept = fields("stem-on");
    const field = screen.getByLabelText(label);
    await user.clear(field);
    await user.type(field, `${typed}{Enter}`);
    expect(joinOf(kept, "stem-on")).toMatchObject(values);
  });

  it("is kept cooler while another is heated, by so much and in some way, until it is not", async () => {
    const kept = fields("stem-on");
    const shields = within(screen.getByRole("group", { name: "Shields" }));
    await choose(shields.getByRole("button", { name: "while …" }), "hinge");
    expect(joinOf(kept, "stem-on").shields).toEqual([{ during: "hinge", degrees_c: 20, how: "sink" }]);
    await choose(shields.getByLabelText("How"), "wet");
    expect(joinOf(kept, "stem-on").shields[0]?.how).toBe("wet");
    await user.click(shields.getByRole("button", { name: "No shield from Hinge foot" }));
    expect(joinOf(kept, "stem-on").shields).toEqual([]);
  });
});

describe("other work's fields", () => {
  const with_ = (kind: Work["kind"]) => {
    const made = addWork(DOCUMENT, kind);
    const kept = fields(made.id, made.document);
    return { kept, work: () => kept.now.work.find((one) => one.id === made.id) as Work };
  };

  it.each([
    ["bend", "Reduction (0: the usual), %", "30{Enter}", { reduction_pct: 30 }],
    ["forge", "Reduction (0: the usual), %", "45.5{Enter}", { reduction_pct: 45.5 }],
    ["bend", "Over a dowel", "8{Enter}", { dowel_mm: 8 }],
    ["bend", "Angle, °", "90{Enter}", { angle_deg: 90 }],
    ["bend", "Marks at", "5, 12.5{Enter}", { marks_mm: [5, 12.5] }],
    ["ball", "Ball", "1/16 in{Enter}", { ball_mm: 1.5875 }],
    ["twist", "Turns", "14{Enter}", { turns: 14 }],
    ["pour", "Charge (0: all of it), g", "22{Enter}", { mass_g: 22 }],
    ["deplete", "Times (0: once)", "3{Enter}", { times: 3 }],
    ["trim", "Down to", "11{Enter}", { to_mm: 11 }],
    ["size", "Comes out at", "17.3{Enter}", { target: { mm: 17.3, within_mm: 0.1, what: "" } }],
    ["finish", "Grit or compound", "600{Enter}", { stage: 600 }],
    ["finish", "Grit or compound", "rouge{Enter}", { stage: "rouge" }],
  ] as const)("of a %s ask for %s", async (kind, label, typed, values) => {
    const { work } = with_(kind);
    const field = screen.getByLabelText(label);
    await user.clear(field);
    await user.type(field, typed);
    expect(work()).toMatchObject(values);
  });

  it("of an anneal ask for none of these", () => {
    with_("anneal");
    for (const label of ["Reduction (0: the usual), %", "Ball", "Grit or compound"])
      expect(screen.queryByLabelText(label)).toBeNull();
  });

  it("of a size ask how near, and a size taken out takes its tolerance with it", async () => {
    const { work } = with_("size");
    const type = async (label: string, typed: string) => {
      await user.clear(await screen.findByLabelText(label));
      await user.type(await screen.findByLabelText(label), typed);
    };
    await type("Comes out at", "17.3{Enter}");
    await type("Within", "0.2{Enter}");
    await type("Measured", "inside{Enter}");
    expect(work().target).toEqual({ mm: 17.3, within_mm: 0.2, what: "inside" });
    await type("Comes out at", "0{Enter}");
    expect(work().target).toBeNull();
    await waitFor(() => expect(screen.queryByLabelText("Within")).toBeNull());
  });

  it("say what it is done to, and what it comes after and before", async () => {
    const { work } = with_("anneal");
    const more = (group: string) =>
      within(screen.getByRole("group", { name: group })).getByRole("button", { name: /…$/ });
    await choose(more("Parts"), "catch");
    await choose(more("Comes after"), "stem-on");
    await choose(more("Comes before"), "hinge");
    expect(work()).toMatchObject({ after: ["stem-on"], before: ["hinge"] });
    expect(work().parts).toContain("catch");
    await user.click(await screen.findByRole("button", { name: "Stem overlay: take out" }));
    expect(work().after).toEqual([]);
  });
});
