/** Words of a run that need no screen. */
import type { OutcomeWord, Step } from "../api/types";

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
