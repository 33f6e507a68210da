/** What is asked of the log, as its address carries it, and the words of what can be asked. */
import { useTables } from "../api/queries";
import type { AskedOfLog, LogFacets } from "../api/types";
import { optionsOf } from "../parts/Select";
import { gradeWords } from "../parts/words";

export type Filter = keyof LogFacets;
export const FILTERS: readonly Filter[] = [
  "piece",
  "kind",
  "grade",
  "wire",
  "sheet",
  "metal",
  "torch",
  "outcome",
];
export const LABELS: Readonly<Record<Filter, string>> = {
  piece: "Piece",
  kind: "Join",
  grade: "Solder",
  wire: "Wire",
  sheet: "Sheet",
  metal: "Metal",
  torch: "Torch",
  outcome: "Came out",
};
export const SINCE = optionsOf({
  "": "ever",
  "1": "1 month",
  "3": "3 months",
  "12": "a year",
  "36": "3 years",
});
export type Since = (typeof SINCE)[number][0];

/** The first day of so many months ago. */
export function dayOf(months: Since, now = new Date()): string | undefined {
  if (months === "") return undefined;
  const day = new Date(Date.UTC(now.getFullYear(), now.getMonth() - Number(months), now.getDate()));
  return day.toISOString().slice(0, 10);
}

/** Whether anything but words is asked. */
export const isFiltered = (asked: AskedOfLog): boolean =>
  Object.entries(asked).some(([name, value]) => name !== "words" && Boolean(value));

/** The address of something that is asked like this. */
export function addressOf(path: string, asked: AskedOfLog): string {
  const told = Object.entries(asked).filter(([, value]) => value);
  return `${path}?${new URLSearchParams(told.map(([name, value]) => [name, String(value)])).toString()}`;
}

/** What is asked, without one of its words. */
export const without = (words: string, word: string): string =>
  words
    .replace(new RegExp(word.replace(/[.*+?^${}()|[\]\\]/g, "\\$&"), "i"), " ")
    .replace(/""|\s+/g, " ")
    .trim();

const OUTCOMES: Readonly<Record<string, string>> = {
  well: "went well",
  wrong: "went wrong",
  flowed: "flowed all along",
  short: "short: a gap left",
  "did-not-flow": "did not flow",
  flooded: "flooded",
  moved: "moved",
  "opened-another": "opened another",
  melted: "melted",
};

/** How what is chosen of a filter is called. */
export function useNames(): (filter: Filter, value: string) => string {
  const tables = useTables().data;
  return (filter, value) => {
    if (filter === "outcome") return OUTCOMES[value] ?? value;
    if (filter === "grade") return gradeWords(value as never);
    if (filter === "metal") {
      const name = (id: string) => tables?.metals.find((metal) => metal.id === id)?.name ?? id;
      return value.split(" + ").map(name).join(" and ");
    }
    // The names of torches do not tell a large one from a small one.
    return filter === "kind" || filter === "torch" ? value.replaceAll("-", " ") : value;
  };
}
