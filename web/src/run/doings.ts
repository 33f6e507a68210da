/** What is written down of a look, and of a heat that is done again. */
import type { OfferView, OutcomeWord, RunView } from "../api/types";
import type { Turn } from "../happened/events";
import type { Saying } from "../happened/keep";
import { LIT } from "../happened/written";
import { copiesLeft } from "./copies";
import type { Open } from "./useCopies";
import type { Press } from "./useRunHere";
import { heatOf, type Look, lookAt } from "./words";

export type Looking = Look & {
  pass: () => void;
  passAll: () => void;
  fail: (word?: OutcomeWord) => void;
  keyed: Record<string, () => void>;
};

/** The look at hand, and what can be said of it: at a join how that is, by the keys of the outcomes. */
export function lookingOf(run: RunView, turn: string, made: Turn["looks"], act: Press): Looking | null {
  const look = lookAt(run, made);
  if (!look) return null;
  const passed = (check: number): Saying => ({ kind: "look", turn, check, passes: true });
  const passAll = () => void act(...look.left.map(passed));
  const fail = (word?: OutcomeWord) => void act(...failed(run, turn, look, word));
  const ways = look.join ? run.words.slice(1) : [undefined];
  const keyed = Object.fromEntries(ways.map((word) => [word?.key ?? "2", () => fail(word)] as const));
  return { ...look, pass: () => void act(passed(look.n)), passAll, fail, keyed: { ...keyed, a: passAll } };
}

/** Whether the flame of a heat that has no signs is lit, and nothing is said of it yet. */
export const isBurning = (step: RunView["step"], { signs, off, outcomes }: Omit<Turn, "id">): boolean =>
  step.kind === "heat" &&
  step.stages.length === 0 &&
  signs.length > 0 &&
  off === null &&
  outcomes.length === 0;

/** Whether what cools is closed and still hot: it must not go into water or acid before its time, `early` seconds from now. */
export const isShut = (step: RunView["step"], early: number): boolean =>
  step.kind === "cool" && step.to_the_end === true && early > 0;

/** A sign that is seen: that the flame is lit, or that of a stage; with the last the flame goes off. */
export function signed({ step }: RunView, turn: string, stage: number): Saying[] {
  if (stage === LIT) return [{ kind: "lit", turn }];
  const sign: Saying = { kind: "sign", turn, stage };
  return step.kind === "heat" && stage === step.stages.length ? [sign, { kind: "off", turn }] : [sign];
}

/** What was done last at a turn, taken back: a word, the flame put out with the sign for that, a sign, a look; else back a step. */
export function takenBack(turn: string, written: Omit<Turn, "id">): Saying[] {
  const undo = (of: string): Saying => ({ kind: "undo", of });
  const word = written.opened.at(-1) ?? written.outcomes.at(-1);
  if (word) return [undo(word.event)];
  const last = written.signs.at(-1) ?? written.looks.at(-1);
  const withIt = last && "stage" in last && last.stage !== LIT ? [undo(last.event)] : [];
  if (written.off) return [undo(written.off), ...withIt];
  return [last ? undo(last.event) : { kind: "back", turn }];
}

/** Keys from 2 on, one for each. */
export const byNumber = (tries: (() => void)[]) => tries.map((tried, n) => [String(n + 2), tried] as const);

/** How a join came out. */
export const cameOut = (turn: string, join: string, outcome: string, copies: number[] = []): Saying => ({
  kind: "outcome",
  turn,
  join,
  outcome: outcome as never,
  ...(copies.length > 0 && { copies }),
});

/** What waits for its word, all of it as it should be. */
export const allWell = (turn: string, { join, alike, left }: Open, [good]: OutcomeWord[]): Saying =>
  cameOut(turn, join, good?.outcome ?? "flowed", left.length === alike ? [] : left);

/** That a join of an earlier heat has opened in this one. */
export const openedNow = (run: RunView, join: string): Saying => ({ kind: "opened", turn: run.turn, join });

/** What still waits for its word when a heat is over: its joins, or the work that it does, with the copies that wait. */
export function openOf({ step }: RunView, { outcomes }: Turn, work: string | null): Open[] {
  if (step.kind !== "heat") return [];
  const whole = work === null ? [] : [{ join: work, title: `the ${step.purpose}`, alike: step.alike ?? 1 }];
  const rows = step.joins.length > 0 ? step.joins : whole;
  return rows
    .map(({ join, title, alike = 1 }) => ({ join, title, alike, left: copiesLeft(outcomes, join, alike) }))
    .filter(({ left }) => left.length > 0);
}

/** Whether something went wrong at the step at hand that is mended before it goes on. */
export function isWrong({ step }: RunView, turn: Turn, words: OutcomeWord[]): boolean {
  const sound = new Map<string, boolean>(words.map((word) => [word.outcome, word.sound]));
  const { measure } = step;
  const value = measure ? turn.measures.find(({ what }) => what === measure.what)?.value : undefined;
  const off = measure && value !== undefined && Math.abs(value - measure.to_be) > measure.within + 1e-9;
  return (
    (step.kind === "heat" && turn.outcomes.some(({ outcome }) => sound.get(outcome) === false)) ||
    turn.opened.length > 0 ||
    turn.looks.some(({ passes }) => !passes) ||
    off === true
  );
}

/** What was taken of what is offered: its steps come next. */
export const taken = (turn: string, offer: OfferView): Saying => ({
  kind: "again",
  turn,
  ways: [offer.way],
  joins: offer.joins,
  steps: offer.steps,
});

/** A look that finds something; where it is at a join, how that is, as a word on the heat that made it. */
function failed(run: RunView, turn: string, look: Look, word?: OutcomeWord): Saying[] {
  const heat = look.join ? heatOf(run, look.join) : undefined;
  // What is flooded is sound: it is filed, not heated again.
  const says: Saying = { kind: "look", turn, check: look.n, passes: word?.sound ?? false };
  if (!heat || !word) return [says];
  const outcome = word.outcome as never;
  return [says, { kind: "outcome", turn: heat.turn, join: look.join, outcome }];
}

/** The last try of a heat. */
const lastOf = (run: RunView, heat: number) =>
  run.records.findLast(({ step }) => step.kind === "heat" && step.heat_no === heat);

/** All that led from a heat to the look at hand, done again. */
export function sentBack(run: RunView, turn: string, heat: number): Saying {
  const last = lastOf(run, heat);
  const of = last ? last.turn : turn;
  return { kind: "again", turn, of, ways: [], joins: unsound(run, last) };
}

function unsound(run: RunView, record: RunView["records"][number] | undefined): string[] {
  const sound = new Map<string, boolean>(run.words.map((word) => [word.outcome, word.sound]));
  return (record?.outcomes ?? []).filter(({ outcome }) => !sound.get(outcome)).map(({ join }) => join);
}
