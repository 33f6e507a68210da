/** Starts found by what a smith calls them. */
import type { AskInfo, StartView } from "../api/types";
import { bareLength, bareMass, type Units } from "../parts/units";

/** Keep the starts that hold every word; those whose title or words begin with them stand first. */
export function findStarts(starts: StartView[], words: string): StartView[] {
  const asked = words.toLowerCase().split(/\s+/).filter(Boolean);
  const ranked = starts.flatMap((start) => {
    const { title, about, group, name, words: known } = start.info;
    const near = [title, name.replace(/-/g, " "), ...known].join(" ").toLowerCase().split(/\s+/);
    const text = `${near.join(" ")} ${about} ${group}`.toLowerCase();
    if (!asked.every((word) => text.includes(word))) return [];
    return [{ start, rank: asked.filter((word) => near.some((one) => one.startsWith(word))).length }];
  });
  return ranked.sort((one, other) => other.rank - one.rank).map(({ start }) => start);
}

/** The groups of starts in their order. */
export function groupsOf(starts: StartView[]): [string, StartView[]][] {
  const groups = new Map<string, StartView[]>();
  for (const start of starts) groups.set(start.info.group, [...(groups.get(start.info.group) ?? []), start]);
  return [...groups];
}

/** A measure as it would be typed here: what stands for it while nothing is typed. */
export function sayMeasure(info: AskInfo, value: unknown, units: Units): string {
  if (typeof value !== "number") return value == null ? "" : String(value);
  if (info.quantity === "length") return bareLength(Math.round(value * 1000) / 1000, units);
  if (info.quantity === "mass") return bareMass(value, units);
  return String(Math.round(value * 100) / 100);
}
