import { describe, expect, it } from "vitest";
import { Refusal, sayFault } from "../src/api/client";
import type { Join, PieceDocument, Work } from "../src/api/types";
import {
  addPart,
  addWork,
  baseId,
  changeJoin,
  changeWork,
  FORM_WORDS,
  freshForm,
  freshOutline,
  freshProfile,
  OUTLINE_WORDS,
  PROFILE_WORDS,
  removeJoin,
  removeWork,
  sayForm,
  titleOf,
} from "../src/document/edit";
import { clip } from "../src/ladder/wrap";
import { counted } from "../src/parts/words";
import { withJoin } from "./made";

const empty = {
  format: "eskel-piece/1",
  name: "x",
  parts: [],
  joins: [],
  work: [],
  metals: [],
  rehearsals: [],
} as unknown as PieceDocument;
const two = addPart(addPart(empty, "sheet").document, "wire").document;

describe("fresh things", () => {
  it.each(FORM_WORDS)("a fresh %s is of its kind and can be said", (kind) => {
    const form = freshForm(kind);
    expect(form.kind).toBe(kind);
    expect(sayForm(form)).not.toMatch(/undefined|NaN/);
  });
  it.each(PROFILE_WORDS)("wire of a %s section can be said", (kind) => {
    const wire = freshForm("wire");
    if (wire.kind !== "wire") throw new Error("wire");
    expect(sayForm({ ...wire, profile: freshProfile(kind) })).toMatch(/wire, 30 long$/);
  });
  it.each(OUTLINE_WORDS)("sheet cut to a %s can be said", (kind) => {
    const sheet = freshForm("sheet");
    if (sheet.kind !== "sheet") throw new Error("sheet");
    expect(sayForm({ ...sheet, outline: freshOutline(kind), domed_mm: 2.5 })).toMatch(
      /0\.8 sheet, domed 2\.5$/,
    );
  });
  it("takes the metal of the part before", () => {
    const gold = { ...two, parts: two.parts.map((part) => ({ ...part, metal: "gold-18k-yellow" })) };
    expect(addPart(gold, "ball").document.parts.at(-1)?.metal).toBe("gold-18k-yellow");
  });
});

describe("joins and work", () => {
  const joined = withJoin(withJoin(two));
  const [first, second] = joined.joins as [Join, Join];
  it("gives each join an id of its own, also against work", () => {
    expect(first.id).not.toBe(second.id);
    const worked = addWork(joined, "bend").document;
    expect(new Set([...worked.joins, ...worked.work].map((one) => one.id)).size).toBe(3);
  });
  it("changes one join and leaves the rest as they were", () => {
    const changed = changeJoin(joined, first.id, { holds: "seated" });
    expect(changed.joins.map((join) => join.holds)).toEqual(["seated", "own-weight"]);
    expect(joined.joins[0]?.holds).toBe("own-weight");
  });
  it("takes a join out of every order and shield", () => {
    const told = changeJoin(joined, second.id, {
      after: [first.id],
      shields: [{ during: first.id, degrees_c: 20, how: "sink" }],
    });
    const worked = addWork(told, "size").document;
    const ordered = changeWork(worked, "size", { after: [first.id], before: [second.id] });
    const left = removeJoin(ordered, first.id);
    expect(left.joins).toMatchObject([{ id: second.id, after: [], shields: [] }]);
    expect(left.work).toMatchObject([{ after: [], before: [second.id] }]);
  });
  it("takes work out of every order", () => {
    const worked = addWork(joined, "dome").document;
    const ordered = changeJoin(worked, first.id, { after: ["dome"] });
    const left = removeWork(ordered, "dome");
    expect([left.work.length, left.joins[0]?.after]).toEqual([0, []]);
  });
  it("names a thing by its name, else by its id in words", () => {
    expect([titleOf({ id: "upper-dome", name: "" }), titleOf({ id: "x", name: "Rim" })]).toEqual([
      "upper dome",
      "Rim",
    ]);
    expect([baseId("link#3"), baseId("link")]).toEqual(["link", "link"]);
  });
  it("keeps other work on its parts", () => {
    const work = addWork(two, "roll", "sheet").document.work[0] as Work;
    expect(work.parts).toEqual(["sheet"]);
  });
});

describe("words", () => {
  it("counts with the right word and cuts with an ellipsis", () => {
    expect([counted(1, "part"), counted(0, "join"), counted(12, "heat")]).toEqual([
      "1 part",
      "0 joins",
      "12 heats",
    ]);
    expect([clip("Rim", 8), clip("Rim of the domes", 8)]).toEqual(["Rim", "Rim of…"]);
  });
  it("says every fault of a refusal, with its place", () => {
    const faults = [
      {
        code: "missing",
        path: "parts[0].metal",
        value: null,
        rule: "this key is required",
        remedy: "Add it.",
      },
      { code: "bad-json", path: "", value: null, rule: "a piece file is JSON", remedy: "Mend it." },
    ];
    expect(faults.map(sayFault)).toEqual([
      "parts[0].metal: this key is required. Add it.",
      "a piece file is JSON. Mend it.",
    ]);
    expect(new Refusal(faults).message).toContain("parts[0].metal");
  });
});
