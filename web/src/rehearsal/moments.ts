/** A rehearsal at one moment: where the flame is, how hot everything is, what has happened. Plain functions. */
import type { GlowStep, Rehearsal, RehearsalLine } from "../api/types";

/** The number of the moment at or before a time. */
export function momentAt(times: readonly number[], seconds: number): number {
  let low = 0;
  let high = times.length - 1;
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if ((times[middle] ?? 0) <= seconds + 1e-9) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** A line's value at a time, straight between its moments. */
export function valueAt(times: readonly number[], values: readonly number[], seconds: number): number {
  const at = momentAt(times, seconds);
  const here = values[at] ?? 0;
  const next = values[at + 1];
  const start = times[at] ?? 0;
  const end = times[at + 1];
  if (next === undefined || end === undefined || end <= start) return here;
  return here + (next - here) * Math.min(1, Math.max(0, (seconds - start) / (end - start)));
}

/** The stage that the flame is in at a time, by its number. */
export function stageAt(rehearsal: Rehearsal, seconds: number): number {
  let from = 0;
  for (const [n, stage] of rehearsal.programme.entries()) {
    from += stage.seconds.likely;
    if (seconds < from - 1e-9) return n;
  }
  return rehearsal.programme.length - 1;
}

/**
 * Where the flame stands at a time, mm: it goes round its mark, once in about two seconds, along and across no farther than
 * `most` (half of the work's own length and height).
 */
export function flameAt(
  rehearsal: Rehearsal,
  seconds: number,
  most: readonly [number, number] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY],
): [number, number] | null {
  const stage = rehearsal.programme[stageAt(rehearsal, seconds)];
  if (!stage) return null;
  const mark = [...stage.marks].reverse().find(([from]) => from <= seconds + 1e-9) ?? stage.marks[0];
  if (!mark) return null;
  const turn = seconds * Math.PI;
  const [along, across] = most.map((one) => Math.min(stage.reach_mm, one)) as [number, number];
  return [mark[1] + along * Math.cos(turn), mark[2] + across * Math.sin(turn)];
}

/** The colour of the glow at a temperature, between the steps of the table. */
export function glowAt(steps: readonly GlowStep[], celsius: number): string {
  const first = steps[0];
  const last = steps[steps.length - 1];
  if (!first || !last) return "none";
  if (celsius <= first.at_c) return rgb(first.rgb);
  if (celsius >= last.at_c) return rgb(last.rgb);
  const above = steps.findIndex((step) => step.at_c > celsius);
  const low = steps[above - 1] ?? first;
  const high = steps[above] ?? last;
  const share = (celsius - low.at_c) / (high.at_c - low.at_c);
  return rgb(low.rgb.map((one, n) => Math.round(one + ((high.rgb[n] ?? one) - one) * share)));
}

const rgb = (parts: readonly number[]) => `rgb(${parts.join(" ")})`;

/** The name of the glow at a temperature. */
export const glowWord = (steps: readonly GlowStep[], celsius: number): string =>
  [...steps].reverse().find((step) => step.at_c <= celsius)?.word ?? "no glow";

/** What has happened until a time, the last thing first. */
export const eventsUntil = (rehearsal: Rehearsal, seconds: number) =>
  rehearsal.events.filter((event) => event.seconds <= seconds + 1e-9).reverse();

/** What is seen at a join, from nothing to solder that has run. */
export const SEAM_STATES = [
  "dry",
  "steaming",
  "white crust",
  "dark",
  "clear as glass",
  "spent",
  "run",
] as const;
export type SeamState = (typeof SEAM_STATES)[number];
const SEEN_AFTER: Record<string, SeamState> = {
  steam: "steaming",
  crust: "white crust",
  dark: "dark",
  clear: "clear as glass",
  spent: "spent",
  reached: "run",
};

/** How far each join of the heat is at a time: a sign is told once, when the last of its places shows it. */
export function seamsAt(rehearsal: Rehearsal, seconds: number): { join: string; state: SeamState }[] {
  return rehearsal.joins.map((join) => {
    const last = rehearsal.events
      .filter((event) => event.about === join && event.seconds <= seconds + 1e-9)
      .map((event) => SEAM_STATES.indexOf(SEEN_AFTER[event.kind] ?? "dry"))
      .reduce((most, one) => Math.max(most, one), 0);
    return { join, state: SEAM_STATES[last] ?? "dry" };
  });
}

/** The lines that are drawn strongly: the joins of the heat, and what came nearest to its limit. */
export function mainLines(rehearsal: Rehearsal): Set<string> {
  return new Set([...rehearsal.joins, ...(rehearsal.tightest ? [rehearsal.tightest.about] : [])]);
}

/** Labels at the right end of lines, moved apart so that none lies on another: their heights, in the order given. */
export function spreadLabels(heights: readonly number[], apart: number, low: number, high: number): number[] {
  const order = heights.map((_, n) => n).sort((a, b) => (heights[a] ?? 0) - (heights[b] ?? 0));
  const placed = heights.slice();
  let last = low - apart;
  for (const n of order) {
    placed[n] = Math.max(heights[n] ?? 0, last + apart);
    last = placed[n] ?? last;
  }
  const over = last - high;
  if (over > 0) {
    let next = high + apart;
    for (const n of [...order].reverse()) {
      placed[n] = Math.min(placed[n] ?? 0, next - apart);
      next = placed[n] ?? next;
    }
  }
  return placed;
}

/** The highest temperature worth showing. */
export function topOf(lines: readonly RehearsalLine[]): number {
  const values = lines.flatMap((line) => [
    ...line.hottest_c,
    ...(line.limit_c === null ? [] : [line.limit_c]),
    ...(line.flow_c === null ? [] : [line.flow_c]),
  ]);
  const top = values.reduce((most, one) => Math.max(most, one), 400);
  return Math.ceil((top + 30) / 100) * 100;
}
