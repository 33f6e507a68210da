/** A run as its screen shows it, told on the device from its sheet and its events: word for word what the server would answer. */
import type { RecordView, RunSheet, RunView, Step } from "../api/types";
import type { RunState, Turn } from "./events";
import { toldAnew } from "./today";
import { LIT } from "./written";

const WHAT: Partial<Record<string, string>> = {
  anneal: "is annealed",
  fuse: "fuses",
  ball: "is drawn up",
  melt: "is molten",
};

export type FlameView = NonNullable<RunView["flame"]>;

const moment = (ms: number): string => new Date(ms).toISOString();
const momentOr = (ms: number | null): string | null => (ms === null ? null : moment(ms));

/** The turn at which a run stands. */
export function turnAt(state: RunState): Turn {
  const turn = state.turns.find((one) => one.id === state.at);
  if (!turn) throw new Error("a run stands at one of its turns");
  return turn;
}

export function viewOf(sheet: RunSheet, state: RunState, nowMs: number): RunView {
  const here = state.turns.findIndex((one) => one.id === state.at);
  const turn = turnAt(state);
  const step = stepAt(sheet, turn);
  const next = state.turns[here + 1];
  return {
    id: sheet.id,
    piece: sheet.piece,
    piece_name: sheet.piece_name,
    state: state.standing,
    position: positionOf(sheet, state.turns, here),
    turn: turn.id,
    again: turn.again,
    told: sheet.ways.filter(({ way }) => turn.ways.includes(way)).map(({ told }) => told),
    ways: waysFor(sheet, wordsOn(sheet, state.turns.slice(0, here + 1), step)),
    back_to: backTo(sheet, state.turns.slice(0, here), turn, step),
    step,
    flame: flameOf(step, turn),
    next_text: next ? planned(sheet, next.step).text : "the last step: then it is done",
    cautions: sheet.cautions.filter((caution) => caution.step === step.n),
    heats: plannedSteps(sheet).filter(({ kind }) => kind === "heat").length,
    steps: plannedSteps(sheet).map(({ kind }) => kind),
    records: state.turns
      .filter(({ stays }) => stays.length > 0)
      .sort((a, b) => (a.stays[0]?.entered_ms ?? 0) - (b.stays[0]?.entered_ms ?? 0))
      .map((one) => recordOf(sheet, one)),
    words: sheet.words,
    picture: sheet.picture,
    started_at: moment(state.began_ms),
    ended_at: momentOr(state.ended_ms),
    now: moment(nowMs),
  };
}

/** The steps of the plan, without those that were put in. */
const plannedSteps = (sheet: RunSheet): Step[] => sheet.steps.filter((_, n) => !sheet.faces[n]?.extra);

/** The step of the plan at which a run stands; at one that was put in, the one before that. */
function positionOf(sheet: RunSheet, turns: Turn[], here: number): number {
  const most = plannedSteps(sheet).length;
  return turns.slice(0, here + 1).findLast(({ step }) => step <= most)?.step ?? 1;
}

function planned(sheet: RunSheet, n: number): Step {
  const step = sheet.steps[n - 1];
  if (!step) throw new Error("a turn is of a step of the plan");
  return step;
}

/** The step of a turn: of another try of a heat with the joins alone that it is for. */
function stepAt(sheet: RunSheet, turn: Turn): Step {
  const step = planned(sheet, turn.step);
  if (turn.again === 1 || step.kind !== "heat") return step;
  return { ...step, joins: step.joins.filter(({ join }) => turn.joins.includes(join)) };
}

/** What can be tried after such words, what fits the first that is not sound before the rest. */
function waysFor(sheet: RunSheet, words: Turn["outcomes"]): RunView["ways"] {
  const fitting = new Set(words.flatMap(({ outcome }) => sheet.fits[outcome] ?? []));
  return [...fitting].flatMap((way) => sheet.ways.filter((one) => one.way === way));
}

type HeatStep = Extract<Step, { kind: "heat" }>;

/** The heats of a look's round that were done; of a plan that names none, the last heat before it. */
function lookedAt(sheet: RunSheet, before: Turn[], step: Step): HeatStep[] {
  if (step.kind !== "inspect") return [];
  const done = new Set(before.map((turn) => turn.step));
  const heats = plannedSteps(sheet)
    .filter((one) => one.kind === "heat")
    .filter((one) => done.has(one.n));
  const named = step.heats ?? [];
  return named.length > 0 ? heats.filter((one) => named.includes(one.heat_no)) : heats.slice(-1);
}

/** The words that stand on the heat at hand; at a look, those on the last try of each heat that is looked at. */
function wordsOn(sheet: RunSheet, turns: Turn[], step: Step): Turn["outcomes"] {
  if (step.kind !== "inspect") return turns.at(-1)?.outcomes ?? [];
  return lookedAt(sheet, turns.slice(0, -1), step).flatMap(({ n }) => lastOf(turns, n)?.outcomes ?? []);
}

const lastOf = (turns: Turn[], n: number): Turn | undefined => turns.findLast((turn) => turn.step === n);

/** The earlier heats of which a join opened in the flame of this one, each with those joins: what was said of them since it began. */
function openedIn(sheet: RunSheet, before: Turn[], turn: Turn, step: HeatStep): [HeatStep, Set<string>][] {
  const since = turn.stays[0]?.entered_ms ?? 0;
  const sound = new Map<string, boolean>(sheet.words.map((word) => [word.outcome, word.sound]));
  return plannedSteps(sheet)
    .filter((one) => one.kind === "heat")
    .filter((one) => one.n !== step.n)
    .map((heat): [HeatStep, Set<string>] => {
      const words = lastOf(before, heat.n)?.outcomes ?? [];
      const open = words.filter(
        ({ join, outcome, at_ms }) => join in step.states && at_ms >= since && !sound.get(outcome),
      );
      return [heat, new Set(open.map(({ join }) => join))];
    })
    .filter(([, joins]) => joins.size > 0);
}

/** The heats that a look can send back to; at a heat, those of which a join opened in it. */
function backTo(sheet: RunSheet, before: Turn[], turn: Turn, step: Step): RunView["back_to"] {
  const heats: [HeatStep, Set<string> | null][] =
    step.kind === "heat"
      ? openedIn(sheet, before, turn, step)
      : lookedAt(sheet, before, step).map((heat) => [heat, null]);
  return heats.map(([{ heat_no, joins }, some]) => ({
    heat_no,
    title:
      joins
        .filter(({ join }) => some === null || some.has(join))
        .map(({ title }) => title)
        .join(", ") || `Heat ${String(heat_no)}`,
  }));
}

/** How far a heat is by its signs: of one that was not rehearsed, by its lit flame. */
function flameOf(step: Step, turn: Turn): FlameView | null {
  if (step.kind !== "heat") return null;
  const pressed = new Map(turn.signs.map(({ stage, at_ms }) => [stage, at_ms]));
  const lit = pressed.get(LIT);
  const last = Math.max(-1, ...pressed.keys());
  const seconds = step.stages.map((stage) => stage.likely_s);
  const since = new Map(
    turn.signs
      .filter(({ stage }) => stage !== LIT)
      .map(({ stage, at_ms }) => [stage - 1, (at_ms - (lit ?? 0)) / 1000] as const),
  );
  const today = lit === undefined ? null : toldAnew(seconds, since, WHAT[step.purpose] ?? "runs");
  return {
    signs: turn.signs.map(({ stage, at_ms }) => ({ stage, at: moment(at_ms) })),
    next: last === step.stages.length ? null : last + 1,
    done_at: today && moment((pressed.get(last) ?? 0) + today.leftS * 1000),
    today: today?.words ?? "",
  };
}

/** The words that a turn can have: of joins, or of the work of a heat without joins. */
export function wordsAt(sheet: RunSheet, turn: Turn): RunView["words"] {
  return sheet.sets?.[sheet.faces[turn.step - 1]?.words ?? "join"] ?? sheet.words;
}

function recordOf(sheet: RunSheet, turn: Turn): RecordView {
  const step = planned(sheet, turn.step);
  const titles = new Map(step.kind === "heat" ? step.joins.map(({ join, title }) => [join, title]) : []);
  const words = new Map<string, string>(
    wordsAt(sheet, turn).map((word) => [word.outcome, word.words] as const),
  );
  const last = turn.stays.at(-1);
  return {
    n: turn.step,
    turn: turn.id,
    again: turn.again,
    step,
    started_at: moment(turn.stays[0]?.entered_ms ?? 0),
    ended_at: last?.back ? null : momentOr(last?.left_ms ?? null),
    due_low: momentOr(turn.due_low_ms),
    due_high: momentOr(turn.due_high_ms),
    skipped: turn.skipped,
    note: turn.notes.map(({ text }) => text).join("\n"),
    tally: turn.tally,
    lost: turn.lost,
    signs: turn.signs.map(({ stage, at_ms }) => ({ stage, at: moment(at_ms) })),
    measures: turn.measures.map(({ what, value }) => ({ what, value })),
    looks: turn.looks.map(({ check, passes }) => ({ check, passes })),
    outcomes: turn.outcomes.map(({ join, outcome, at_ms }) => ({
      join,
      title: titles.get(join) ?? join,
      outcome,
      words: words.get(outcome) ?? outcome,
      at: moment(at_ms),
    })),
  };
}
