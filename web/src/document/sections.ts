/** Sections as they are said in a few words, and courses as they are typed: read back to what the file keeps. */
import type { Profile } from "../api/types";
import { readLength } from "../parts/readLength";
import { bareLength, type Units } from "../parts/units";

/** A section in words: "round 2", "half-round 3 × 1.5". */
export function saySection(profile: Profile, units: Units): string {
  const mm = (value: number) => bareLength(value, units);
  switch (profile.kind) {
    case "round":
      return `round ${mm(profile.diameter_mm)}`;
    case "square":
      return `square ${mm(profile.side_mm)}`;
    default:
      return `${profile.kind === "rect" ? "flat" : "half-round"} ${mm(profile.width_mm)} × ${mm(profile.height_mm)}`;
  }
}

/** Read a section as it is said; null for what is none. A size alone is round. */
export function readSection(typed: string, units: Units): Profile | null {
  const found = /^\s*(round|square|flat|half[- ]round)?\s*(.+)$/i.exec(typed);
  if (!found) return null;
  const sizes = (found[2] ?? "").split(/\s*[×x*]\s*/).map((one) => readLength(one, units));
  const mm = sizes.flatMap((one) => ("problem" in one ? [] : [one.value]));
  const [first, second] = mm;
  if (first === undefined || mm.length !== sizes.length || mm.length > 2) return null;
  const kind = (found[1] ?? "round").toLowerCase().replace(" ", "-");
  if (kind === "round" && second === undefined) return { kind: "round", diameter_mm: first };
  if (kind === "square" && second === undefined) return { kind: "square", side_mm: first };
  if (second === undefined || kind === "round" || kind === "square") return null;
  const [width_mm, height_mm] = [Math.max(first, second), Math.min(first, second)];
  return kind === "flat"
    ? { kind: "rect", width_mm, height_mm }
    : { kind: "half-round", width_mm, height_mm };
}

type Course = [number, number][] | string;

/** A course in plan as text: an SVG path as it is, points as "0 0, 10 0, 10 5". */
export const sayCourse = (path: Course | null | undefined): string =>
  !path ? "" : typeof path === "string" ? path : path.map((point) => point.join(" ")).join(", ");

/** Read a course; null where it is taken out, undefined for what is none. */
export function readCourse(typed: string): Course | null | undefined {
  const text = typed.trim();
  if (text === "") return null;
  if (/^m/i.test(text)) return text;
  const points = text.split(/[,;]\s*/).map((pair) => pair.trim().split(/\s+/).map(Number));
  const sound = points.length >= 2 && points.every((one) => one.length === 2 && one.every(Number.isFinite));
  return sound ? (points as [number, number][]) : undefined;
}
