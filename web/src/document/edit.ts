/** Changes to a piece's document, as plain functions: each takes a document and gives a new one. */
import type { Form, Join, Outline, Part, PieceDocument, Profile, Work } from "../api/types";
import { optionsOf } from "../parts/Select";
import { bareLength, METRIC, sayMass, type Units } from "../parts/units";

export type FormKind = Form["kind"];
export const FORM_WORDS = optionsOf<FormKind>({
  wire: "wire",
  sheet: "sheet",
  strip: "strip",
  tube: "tube",
  ball: "ball",
  lump: "bought or cast",
});
export const PROFILE_WORDS = optionsOf<Profile["kind"]>({
  round: "round",
  square: "square",
  rect: "flat",
  "half-round": "half-round",
});
export const OUTLINE_WORDS = optionsOf<Outline["kind"]>({
  disc: "disc",
  ellipse: "oval",
  rect: "rectangle",
  ring: "washer",
  polygon: "polygon",
  path: "drawn path",
});

/** A sound form of a kind to begin with. */
export function freshForm(kind: FormKind): Form {
  switch (kind) {
    case "wire":
      return { kind, profile: freshProfile("round"), length_mm: 30, closed: false, strands: 1 };
    case "sheet":
      return { kind, thickness_mm: 0.8, outline: freshOutline("rect"), domed_mm: 0 };
    case "strip":
      return { kind, width_mm: 4, thickness_mm: 0.8, length_mm: 30, closed: false };
    case "tube":
      return { kind, outer_mm: 3, wall_mm: 0.4, length_mm: 8, sealed_ends: 0 };
    case "ball":
      return { kind, diameter_mm: 3 };
    case "lump":
      return { kind, mass_g: 1, surface_mm2: 60 };
  }
}

export function freshProfile(kind: Profile["kind"]): Profile {
  switch (kind) {
    case "round":
      return { kind, diameter_mm: 1 };
    case "square":
      return { kind, side_mm: 1 };
    case "rect":
      return { kind, width_mm: 2, height_mm: 1 };
    case "half-round":
      return { kind, width_mm: 3, height_mm: 1.4 };
  }
}

export function freshOutline(kind: Outline["kind"]): Outline {
  switch (kind) {
    case "disc":
      return { kind, diameter_mm: 20 };
    case "ellipse":
      return { kind, width_mm: 20, height_mm: 15 };
    case "rect":
      return { kind, width_mm: 20, height_mm: 20, corner_mm: 0 };
    case "ring":
      return { kind, outer_mm: 20, inner_mm: 12 };
    case "polygon":
      return {
        kind,
        points: [
          [0, 0],
          [20, 0],
          [10, 16],
        ],
      };
    case "path":
      return { kind, path: "M0 0 H20 V12 H0 Z" };
  }
}

/** An id that is not taken: the word itself, or with a number. */
export function freshId(word: string, taken: readonly string[]): string {
  const base =
    word
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-+|-+$/g, "")
      .slice(0, 40) || "x";
  if (!taken.includes(base)) return base;
  for (let n = 2; ; n++) if (!taken.includes(`${base}-${n}`)) return `${base}-${n}`;
}

export const baseId = (reference: string): string => reference.split("#")[0] ?? reference;
export const titleOf = (one: { id: string; name: string }): string =>
  one.name || one.id.replace(/[-_]/g, " ");

export function addPart(document: PieceDocument, kind: FormKind): { document: PieceDocument; id: string } {
  return addPartOf(document, freshForm(kind), kind === "lump" ? "part" : kind, "");
}

/** Add a part of a form that is known already; its id follows the word. */
export function addPartOf(
  document: PieceDocument,
  form: Form,
  word: string,
  name: string,
): { document: PieceDocument; id: string } {
  const id = freshId(
    word,
    document.parts.map((part) => part.id),
  );
  const metal = document.parts.findLast((part) => part.metal !== null)?.metal ?? "sterling-925";
  const part: Part = {
    id,
    name,
    metal,
    form,
    temper: "soft",
    count: 1,
    spring: false,
    bought_in: false,
    made: false,
    moves: false,
    cast: false,
    heat_safe: true,
    touches_skin: "none",
  };
  return { document: { ...document, parts: [...document.parts, part] }, id };
}

export function changePart(document: PieceDocument, id: string, change: Partial<Part>): PieceDocument {
  return {
    ...document,
    parts: document.parts.map((part) => (part.id === id ? { ...part, ...change } : part)),
  };
}

/** Take a line out of the cut list that is no part. */
export function removeCut(document: PieceDocument, id: string): PieceDocument {
  return { ...document, cuts: document.cuts.filter((cut) => cut.id !== id) };
}

/** Take a part out, with the joins that it was in; other work goes on without it. */
export function removePart(document: PieceDocument, id: string): PieceDocument {
  const gone = document.joins
    .filter((join) => join.between.some((end) => baseId(end) === id))
    .map((join) => join.id);
  const kept = gone.reduce(removeJoin, document);
  return {
    ...kept,
    parts: kept.parts
      .filter((part) => part.id !== id)
      .map((part) => (part.from === id ? { ...part, from: null } : part)),
    joins: kept.joins.map((join) => ({
      ...join,
      through: join.through.filter((one) => baseId(one) !== id),
    })),
    work: kept.work.map((work) => ({ ...work, parts: work.parts.filter((one) => baseId(one) !== id) })),
  };
}

export function changeJoin(document: PieceDocument, id: string, change: Partial<Join>): PieceDocument {
  return {
    ...document,
    joins: document.joins.map((join) => (join.id === id ? { ...join, ...change } : join)),
  };
}

/** The grades that step down, the hardest first. */
export const GRADES = ["hard", "medium", "easy", "extra-easy"] as const;

export type ByHand = NonNullable<Join["by_hand"]>;

/** A join as the plan has it, before anything of it is moved by hand. */
export const NOT_MOVED: ByHand = { grade: null, shares: [], apart: [], after: [] };

export function removeJoin(document: PieceDocument, id: string): PieceDocument {
  const without = (names: string[]) => names.filter((name) => name !== id);
  return {
    ...document,
    joins: document.joins
      .filter((join) => join.id !== id)
      .map((join) => ({
        ...join,
        after: without(join.after),
        by_hand: join.by_hand
          ? {
              ...join.by_hand,
              shares: without(join.by_hand.shares),
              apart: without(join.by_hand.apart),
              after: without(join.by_hand.after),
            }
          : null,
        shields: join.shields.filter((shield) => shield.during !== id),
      })),
    rehearsals: document.rehearsals.filter(
      (rehearsal) => !rehearsal.joins.includes(id) && rehearsal.work !== id,
    ),
    work: document.work.map((work) => ({
      ...work,
      after: without(work.after),
      before: without(work.before),
    })),
  };
}

/** Add work on the part that is chosen, and on none else; where there is but one part it is on that. */
export function addWork(
  document: PieceDocument,
  kind: Work["kind"],
  part?: string | null,
): { document: PieceDocument; id: string } {
  const id = freshId(kind, stepIds(document));
  const only = document.parts.length === 1 ? document.parts[0]?.id : undefined;
  const on = part ?? only;
  const work: Work = {
    id,
    name: "",
    kind,
    parts: on ? [on] : [],
    after: [],
    before: [],
    vents: [],
    seals: [],
    marks_mm: [],
    done: false,
  };
  return { document: { ...document, work: [...document.work, work] }, id };
}

export function changeWork(document: PieceDocument, id: string, change: Partial<Work>): PieceDocument {
  return { ...document, work: document.work.map((work) => (work.id === id ? { ...work, ...change } : work)) };
}

export function removeWork(document: PieceDocument, id: string): PieceDocument {
  const rest = { ...document, work: document.work.filter((work) => work.id !== id) };
  return removeJoin({ ...rest, joins: document.joins.map((join) => ({ ...join })) }, id);
}

const stepIds = (document: PieceDocument): string[] => [
  ...document.joins.map((join) => join.id),
  ...document.work.map((work) => work.id),
];

type Say = (mm: number) => string;

/** A form in a few words: "round wire 1.15, 17 long, closed". */
export function sayForm(form: Form, units: Units = METRIC): string {
  // A gauge is told to the micrometre, a length as a rule is read.
  const mm = (value: number) => {
    const fine = value < 10 ? 1000 : 100;
    return bareLength(Math.round(value * fine) / fine, units);
  };
  switch (form.kind) {
    case "wire": {
      const strands = form.strands > 1 ? `${form.strands} × ` : "";
      return `${strands}${sayProfile(form.profile, mm)} wire, ${mm(form.length_mm)} long${form.closed ? ", closed" : ""}`;
    }
    case "sheet":
      return `${sayOutline(form.outline, mm)}, ${mm(form.thickness_mm)} sheet${form.domed_mm ? `, domed ${mm(form.domed_mm)}` : ""}`;
    case "strip":
      return `strip ${mm(form.width_mm)} × ${mm(form.thickness_mm)}, ${mm(form.length_mm)} long${form.closed ? ", closed" : ""}`;
    case "tube":
      return `tube ${mm(form.outer_mm)}, wall ${mm(form.wall_mm)}, ${mm(form.length_mm)} long`;
    case "ball":
      return `ball ${mm(form.diameter_mm)}`;
    case "lump":
      return `${sayMass(form.mass_g, units)}, bought or cast`;
  }
}

function sayProfile(profile: Profile, mm: Say): string {
  switch (profile.kind) {
    case "round":
      return `round ${mm(profile.diameter_mm)}`;
    case "square":
      return `square ${mm(profile.side_mm)}`;
    default:
      return `${profile.kind === "rect" ? "flat" : "half-round"} ${mm(profile.width_mm)} × ${mm(profile.height_mm)}`;
  }
}

function sayOutline(outline: Outline, mm: Say): string {
  switch (outline.kind) {
    case "disc":
      return `disc ${mm(outline.diameter_mm)}`;
    case "ring":
      return `washer ${mm(outline.outer_mm)} / ${mm(outline.inner_mm)}`;
    case "polygon":
      return `polygon of ${outline.points.length}`;
    case "path":
      return "drawn outline";
    default:
      return `${outline.kind === "ellipse" ? "oval" : "rectangle"} ${mm(outline.width_mm)} × ${mm(outline.height_mm)}`;
  }
}
