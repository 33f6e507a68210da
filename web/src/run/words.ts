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
  run.records.find((one) => one.n === run.position && one.again === run.again);

const TRIES = ["first", "second", "third", "fourth", "fifth"];

/** Which try of a step it is, in words; nothing for the first. */
export const sayTry = (again: number): string =>
  again === 1 ? "" : `${TRIES[again - 1] ?? `${String(again)}th`} try`;
