/** Words of a run that need no screen. */
import type { OutcomeWord, Step } from "../api/types";

/** The first sentence of a text, and the rest one by one: the first is read from across the room. */
export function headAndRest(text: string): { head: string; rest: string[] } {
  const sentences = text.match(/[^.!?]+(?:[.!?](?!\s|$)[^.!?]*)*[.!?]?/g)?.map((one) => one.trim()) ?? [text];
  const [head = text, ...rest] = sentences.filter((one) => one !== "");
  return { head, rest };
}

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
