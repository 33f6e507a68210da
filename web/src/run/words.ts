/** Words of a run that need no screen. */
import type { OutcomeWord, RecordView, RunView, Step } from "../api/types";

/** The outcome that a key records. */
export function outcomeFor(words: OutcomeWord[], key: string): OutcomeWord {
  const found = words.find((word) => word.key === key) ?? words[0];
  if (!found) throw new Error("a run has outcome words");
  return found;
}

const TITLES: Record<Step["kind"], string> = {
  prepare: "Make ready",
  work: "Work",
  heat: "Under the flame",
  cool: "Cool",
  pickle: "In the pot",
  inspect: "Look",
};

/** What a step is, in a word or two. */
export function titleOfStep(step: Step): string {
  return step.kind === "heat" && step.purpose !== "solder"
    ? `Under the flame: ${step.purpose}`
    : TITLES[step.kind];
}

/** What is kept of the step at hand: of its try, where it is done again. */
export const recordAt = (run: RunView): RecordView | undefined =>
  run.records.find((one) => one.turn === run.turn);

const TRIES = ["first", "second", "third", "fourth", "fifth"];

/** Which try of a step it is, in words; nothing for the first. */
export const sayTry = (again: number): string =>
  again === 1 ? "" : `${TRIES[again - 1] ?? `${String(again)}th`} try`;

/** A look at the work that is still to be made: its number, at what, the join that it is at if it is at one, and those that are left. */
export type Look = { n: number; check: Check; title: string; join: string; left: number[] };
type Check = Extract<Step, { kind: "inspect" }>["checks"][number];

/** The look at hand, of those that a step asks; none where all were made. */
export function lookAt({ step, records }: RunView, made: { check: number }[]): Look | null {
  if (step.kind !== "inspect") return null;
  const done = new Set(made.map(({ check }) => check));
  const left = step.checks.map((_, n) => n + 1).filter((n) => !done.has(n));
  const [n] = left;
  const check = n === undefined ? undefined : step.checks[n - 1];
  if (n === undefined || !check) return null;
  const title = titlesOf(records).get(check.about);
  return { n, check, title: title ?? check.about, join: title === undefined ? "" : check.about, left };
}

/** The titles of the joins that were made so far. */
export const titlesOf = (records: RecordView[]): Map<string, string> =>
  new Map(
    records.flatMap(({ step }) =>
      step.kind === "heat" ? step.joins.map(({ join, title }) => [join, title] as const) : [],
    ),
  );

/** The joins of which one has opened in the heat at hand, where that is said and not yet of which: those that lie in its flame. */
export function openedOf(run: RunView, known: number): { join: string; title: string }[] {
  const said = recordAt(run)?.outcomes ?? [];
  if (run.step.kind !== "heat" || known > 0) return [];
  if (!said.some(({ outcome }) => outcome === "opened-another")) return [];
  const titles = titlesOf(run.records);
  return Object.keys(run.step.states)
    .filter((join) => titles.has(join))
    .map((join) => ({ join, title: titles.get(join) ?? join }));
}

/** The last heat in which a join was made. */
export const heatOf = (run: RunView, join: string): RecordView | undefined =>
  run.records.findLast(({ step }) => step.kind === "heat" && step.joins.some((row) => row.join === join));
