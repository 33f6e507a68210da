/** Of many alike in one heat: which still wait for their word, and which are ticked for the word at hand. */
import type { JoinWord } from "../happened/events";

/** Numbers from 1 to so many. */
const upTo = (most: number) => Array.from({ length: most }, (_, n) => n + 1);

/** The copies of what is asked that still wait for their word, by their numbers from 1. */
export function copiesLeft(words: JoinWord[], join: string, alike: number): number[] {
  const own = words.filter((word) => word.join === join);
  if (own.some(({ copies }) => copies.length === 0)) return [];
  const said = new Set(own.flatMap(({ copies }) => copies));
  return upTo(alike).filter((copy) => !said.has(copy));
}

/** What is ticked: those, or all but those; `typed` is a number of which more digits may come. */
export type Ticks = { ticked: number[]; but: boolean; typed: string };
export const NO_TICKS: Ticks = { ticked: [], but: false, typed: "" };

/** Tick a copy, or take its tick away; what has its word already is left alone. */
export function tick(ticks: Ticks, copy: number, left: number[]): Ticks {
  if (!left.includes(copy)) return { ...ticks, typed: "" };
  const without = ticks.ticked.filter((one) => one !== copy);
  const ticked = without.length < ticks.ticked.length ? without : [...ticks.ticked, copy];
  return { ...ticks, ticked, typed: "" };
}

/** Type a digit: a number that no more digits can follow is ticked at once, any other waits for them or for Enter. */
export function typeDigit(ticks: Ticks, digit: string, left: number[]): Ticks {
  const most = Math.max(0, ...left);
  const number = Number(ticks.typed + digit);
  if (number === 0 || number > most) return { ...ticks, typed: "" };
  return number * 10 > most ? tick(ticks, number, left) : { ...ticks, typed: String(number) };
}

/** Enter: a number that was typed is ticked first. */
export const entered = (ticks: Ticks, left: number[]): Ticks =>
  ticks.typed === "" ? ticks : tick(ticks, Number(ticks.typed), left);

/** The copies that the word is said of. */
export const chosen = ({ ticked, but }: Ticks, left: number[]): number[] =>
  left.filter((copy) => ticked.includes(copy) !== but);

/** Copies in words: "2", "1 and 3", "1 to 4 and 7". */
export function sayCopies(copies: number[]): string {
  const runs: [number, number][] = [];
  for (const copy of copies.toSorted((a, b) => a - b)) {
    const last = runs.at(-1);
    if (last && copy === last[1] + 1) last[1] = copy;
    else runs.push([copy, copy]);
  }
  const said = runs.flatMap(([from, to]) =>
    to - from > 1
      ? [`${String(from)} to ${String(to)}`]
      : from === to
        ? [String(from)]
        : [String(from), String(to)],
  );
  return said.length < 2 ? said.join("") : `${said.slice(0, -1).join(", ")} and ${said.at(-1) ?? ""}`;
}
