/**
 * The heat ladder's geometry: time runs left to right as columns, height is temperature.
 * Plain numbers in, plain numbers out; the drawing is elsewhere.
 */
import type { HeatStep, Plan, Step } from "../api/types";
import { GRADES } from "../document/edit";
import { least, most } from "../parts/extent";

export type Between = { x: number; lines: string[] };
export type Softness = { from: number; to: number; state: "soft" | "flows"; joins: string[] };
export type Column = {
  heat: HeatStep;
  x: number;
  width: number;
  /** How far it is to the next column: less where both are of one round. */
  room: number;
  top: number;
  softness: Softness[];
};
/** The heats that share one pot, drawn on one foot. */
export type Round = { no: number; x1: number; x2: number };
export type BandRun = { x1: number; x2: number; present: boolean };
export type BandLine = {
  joins: string[];
  title: string;
  heat: number;
  reflow: number;
  solidus: number;
  runs: BandRun[];
  labelY: number;
};
/** `beyond`: it lies above what is drawn. */
export type Ceiling = { x1: number; x2: number; y: number; degrees: number; part: string; beyond: boolean };
export type LadderShape = {
  columns: Column[];
  rounds: Round[];
  between: Between[];
  bands: BandLine[];
  ceilings: Ceiling[];
  marks: { y: number; degrees: number }[];
  floor: number;
  right: number;
  /** Too many heats to write what lies between them in the same rows as their names. */
  crowded: boolean;
  pitch: number;
  y: (degrees: number) => number;
};

export type Frame = {
  width: number;
  height: number;
  left: number;
  right: number;
  top: number;
  bottom: number;
};

const COLUMN_SHARE = 0.46;
const WITHIN_ROUND = 0.76;
const NARROWEST = 54;
const CROWDED = 128;
const WIDEST = 96;
const LABEL_STEP = 17;
const OVER_HOTTEST = 34;

/** Lay a plan's ladder out in a frame of pixels. */
export function layLadder(plan: Plan, frame: Frame): LadderShape {
  const heats = plan.steps.filter((step) => step.kind === "heat");
  const [low, high] = rangeOf(heats, plan);
  const right = frame.width - frame.right;
  const y = (degrees: number) =>
    frame.top + ((high - degrees) / (high - low)) * (frame.height - frame.top - frame.bottom);
  const pitch = (right - frame.left) / Math.max(heats.length, 1);
  const width = Math.max(NARROWEST, Math.min(WIDEST, pitch * COLUMN_SHARE));
  const rooms = roomsOf(heats, right - frame.left, width);
  const columns = heats.map((heat, n) => ({
    heat,
    x: frame.left + rooms.slice(0, n).reduce((sum, room) => sum + room, 0) + Math.min(14, pitch * 0.08),
    width,
    room: rooms[n] ?? pitch,
    top: y(heat.working_c),
    softness: softnessOf(heat, plan, y),
  }));
  const bands = bandsOf(plan, columns, { left: frame.left, right }, y);
  return {
    columns,
    rounds: roundsOf(columns),
    between: betweenOf(plan.steps, columns, right),
    bands: spread(bands, frame),
    ceilings: ceilingsOf(columns, frame.left, right, y, frame.top),
    marks: marksOf(low, high).map((degrees) => ({ degrees, y: y(degrees) })),
    floor: y(low),
    right,
    crowded: pitch < CROWDED,
    pitch,
    y,
  };
}

/** How far it is from each column to the next: heats of one round stand close, and what follows a round has its place. */
function roomsOf(heats: HeatStep[], wide: number, column: number): number[] {
  const pitch = wide / Math.max(heats.length, 1);
  const close = Math.max(column + 10, pitch * WITHIN_ROUND);
  const within = heats.map((heat, n) => heats[n + 1]?.round === heat.round && heat.round > 0);
  const closed = within.filter(Boolean).length;
  const open = (wide - close * closed) / Math.max(heats.length - closed, 1);
  return within.map((inside) =>
    inside && open > close ? close : inside ? pitch : open > close ? open : pitch,
  );
}

/** The feet of rounds that have several heats. */
function roundsOf(columns: Column[]): Round[] {
  const rounds: Round[] = [];
  columns.forEach((column, n) => {
    const no = column.heat.round;
    if (no === 0 || columns[n - 1]?.heat.round !== no) return;
    const first = columns.find((one) => one.heat.round === no) ?? column;
    const x2 = column.x + column.width;
    const known = rounds.find((round) => round.no === no);
    if (known) known.x2 = x2;
    else rounds.push({ no, x1: first.x, x2 });
  });
  return rounds;
}

/** The lowest and highest temperature drawn: room for the labels in a column, and over the hottest one. */
function rangeOf(heats: HeatStep[], plan: Plan): [number, number] {
  const working = heats.map((heat) => heat.working_c);
  const softs = plan.bands.map((band) => band.solidus_c);
  const low = least([...working, ...softs, 780]) - 55;
  return [Math.floor(low / 50) * 50, most([...working, 760]) + OVER_HOTTEST];
}

function marksOf(low: number, high: number): number[] {
  const step = high - low > 450 ? 100 : 50;
  const first = Math.ceil(low / step) * step;
  return Array.from({ length: Math.floor((high - first) / step) + 1 }, (_, n) => first + n * step);
}

/** Where earlier joins are soft, or run again, inside a later column. */
function softnessOf(heat: HeatStep, plan: Plan, y: (degrees: number) => number): Softness[] {
  const bands = new Map(plan.bands.map((band) => [band.join, band]));
  const found: Softness[] = [];
  for (const state of ["soft", "flows"] as const) {
    const joins = Object.keys(heat.states).filter((join) => heat.states[join] === state);
    if (joins.length === 0) continue;
    const lows = joins.map((join) => {
      const band = bands.get(join);
      return (state === "soft" ? band?.solidus_c : band?.reflow_c) ?? heat.working_c;
    });
    // A join that runs again exactly at the working temperature still shows as a stripe at the column's top.
    const from = Math.max(y(least(lows)), y(heat.working_c) + 10);
    found.push({ from, to: y(heat.working_c), state, joins });
  }
  return found;
}

/** Each solder's joins of one heat as one line, present where their body is in the fire; what is made already comes from the left edge. */
function bandsOf(
  plan: Plan,
  columns: Column[],
  { left, right }: { left: number; right: number },
  y: (degrees: number) => number,
): BandLine[] {
  const lines: BandLine[] = [];
  const already = plan.bands.filter((band) => band.heat_no === 0);
  const groups = [
    ...new Map(
      already.map(({ reflow_c }) => [reflow_c, already.filter((band) => band.reflow_c === reflow_c)]),
    ).values(),
  ].map((made) => ({ made, from: left, heat: 0 }));
  for (const column of columns) {
    const made = plan.bands.filter((band) => band.heat_no === column.heat.heat_no);
    groups.push({ made, from: column.x + column.width, heat: column.heat.heat_no });
  }
  for (const { made, from, heat } of groups) {
    const first = made[0];
    if (!first) continue;
    const after = columns.filter((one) => one.heat.heat_no > heat);
    const runs = [{ x1: from, x2: after[0]?.x ?? right, present: true }];
    after.forEach((one, n) => {
      const present = made.some((band) => band.join in one.heat.states);
      const last = runs.at(-1);
      const x2 = after[n + 1]?.x ?? right;
      if (last && last.present === present) last.x2 = x2;
      else runs.push({ x1: one.x, x2, present });
    });
    lines.push({
      joins: made.map((band) => band.join),
      title:
        made.length > 2
          ? `${first.title} and ${String(made.length - 1)} more`
          : made.map((band) => band.title).join(", "),
      heat,
      reflow: first.reflow_c,
      solidus: first.solidus_c,
      runs,
      labelY: y(first.reflow_c),
    });
  }
  return lines;
}

/** Move the labels at the right apart so that none covers another. */
function spread(bands: BandLine[], frame: Frame): BandLine[] {
  const sorted = [...bands].sort((a, b) => a.labelY - b.labelY);
  let next = frame.top;
  const moved = new Map<BandLine, number>();
  for (const band of sorted) {
    const at = Math.max(band.labelY, next);
    moved.set(band, at);
    next = at + LABEL_STEP;
  }
  return bands.map((band) => ({ ...band, labelY: moved.get(band) ?? band.labelY }));
}

/** The melting ceiling over each column; neighbours of the same height make one line. */
function ceilingsOf(
  columns: Column[],
  left: number,
  right: number,
  y: (degrees: number) => number,
  top: number,
): Ceiling[] {
  const ceilings: Ceiling[] = [];
  columns.forEach((column, n) => {
    const { melts_c: degrees, melts_by: part } = column.heat;
    if (degrees === null || part === null) return;
    const x1 = n === 0 ? left : column.x - 6;
    const x2 = (columns[n + 1]?.x ?? right + 6) - 6;
    const last = ceilings.at(-1);
    if (last && last.degrees === degrees && Math.abs(last.x2 - x1) < 1) last.x2 = x2;
    else ceilings.push({ x1, x2, y: Math.max(y(degrees), top), degrees, part, beyond: y(degrees) < top });
  });
  return ceilings;
}

/** What is done between two heats, in two or three short lines. */
function betweenOf(steps: Step[], columns: Column[], right: number): Between[] {
  const found: Between[] = [];
  columns.forEach((column, n) => {
    const next = columns[n + 1];
    const from = steps.indexOf(column.heat);
    const to = next ? steps.indexOf(next.heat) : steps.length;
    const lines = steps.slice(from + 1, to).flatMap(sayShort);
    const end = next?.x ?? Math.min(right, column.x + column.width * 2.2);
    found.push({ x: (column.x + column.width + end) / 2, lines });
  });
  return found;
}

function sayShort(step: Step): string[] {
  switch (step.kind) {
    case "cool":
      return [step.how === "air-cool" ? "air-cool" : "quench"];
    case "pickle":
      return [
        "pickle",
        `${String(Math.round(step.minutes_low))}–${String(Math.round(step.minutes_high))} min`,
      ];
    case "work":
      return [step.work_kind === "unbind" ? "steel off" : step.work_kind];
    default:
      return [];
  }
}

/** Where a join is put that is dropped at x: into the heat whose column is there, or between two heats. */
export function targetAt(shape: LadderShape, x: number): { heat: number } | { after: number } {
  const over = shape.columns.find((column) => x >= column.x - 8 && x <= column.x + column.width + 8);
  if (over) return { heat: over.heat.heat_no };
  const before = shape.columns.filter((column) => column.x < x).at(-1);
  return { after: before?.heat.heat_no ?? 0 };
}

/** How many rungs tell a grade: the softer the solder, the more. */
export function rungsOf(grade: string | null): number {
  return (GRADES as readonly (string | null)[]).indexOf(grade) + 1;
}
