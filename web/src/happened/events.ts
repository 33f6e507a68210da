/** What happens in a run, as the device that saw it wrote it down; what a run looks like by that. The core's own words and keys. */

export type Outcome =
  | "flowed"
  | "short"
  | "did-not-flow"
  | "flooded"
  | "moved"
  | "opened-another"
  | "melted"
  | "soft"
  | "still-hard"
  | "too-hot"
  | "size"
  | "dropped"
  | "out-of-round"
  | "full"
  | "fold"
  | "done";
export type WordSet = "join" | "anneal" | "ball" | "pour" | "done";
export type Way =
  | "flux-and-solder"
  | "heavy-side"
  | "another-tip"
  | "another-torch"
  | "pickle-first"
  | "apart"
  | "replace-part"
  | "close-gap"
  | "softer"
  | "close-again"
  | "again"
  | "melt-again"
  | "cut-anew"
  | "size-again"
  | "as-it-is"
  | "rest";
export type MeasuredWhat = "size_mm" | "length_mm" | "ball_mm" | "mass_g";

/** Times are ms since 1970 by the device's clock; `ahead_ms` is how far that lagged behind the server's. */
type Written = { id: string; device: string; seq: number; at_ms: number; ahead_ms?: number };
type Saying =
  | { kind: "next"; turn: string; confirmed?: boolean; skipped?: boolean }
  | { kind: "back"; turn: string }
  | { kind: "stop"; turn: string }
  | { kind: "again"; turn: string; of?: string | null; ways?: Way[]; joins?: string[]; steps?: number[] }
  | { kind: "lit"; turn: string }
  | { kind: "sign"; turn: string; stage: number }
  | { kind: "off"; turn: string }
  | { kind: "outcome"; turn: string; join: string; outcome: Outcome; copies?: number[] }
  | { kind: "opened"; turn: string; join: string; copies?: number[] }
  | { kind: "lost"; turn: string; part: string; many: number }
  | { kind: "note"; turn: string; text: string; replaces?: string | null }
  | { kind: "tally"; turn: string; done: number; lost?: number }
  | { kind: "measure"; turn: string; what: MeasuredWhat; value: number }
  | { kind: "look"; turn: string; check: number; passes: boolean }
  | { kind: "undo"; of: string };
export type RunEvent = Written & Saying;
export type MovingEvent = Extract<RunEvent, { kind: "next" | "back" | "stop" | "again" }>;
export type TurnEvent = Exclude<RunEvent, { kind: "undo" } | MovingEvent>;

/** What counts in a run of a step of its plan. */
export type Face = {
  kind: "prepare" | "work" | "heat" | "cool" | "pickle" | "inspect";
  joins: string[];
  /** How many places each of its joins has in all copies. */
  each?: number[];
  /** What is asked of in place of joins, with which words. */
  work?: string | null;
  words?: WordSet;
  /** A step that no plan has: it is put in where a fault is mended. */
  extra?: boolean;
  stages: number;
  checks: number;
  confirm: boolean;
  alike: number;
  waits_low_ms?: number | null;
  waits_high_ms?: number | null;
};

export type Stay = { entered_ms: number; left_ms: number | null; back: boolean };
export type SignAt = { stage: number; at_ms: number; event: string };
/** A word on a join, or on the work of a heat without joins; `copies` are those that it is of, none: all. */
export type JoinWord = { join: string; outcome: Outcome; at_ms: number; event: string; copies: number[] };
export type OpenedJoin = { join: string; at_ms: number; event: string; copies: number[] };
export type Loss = { part: string; many: number; at_ms: number; event: string };
export type Note = { event: string; text: string; at_ms: number };
export type Measure = { what: MeasuredWhat; value: number; at_ms: number; event: string };
export type Look = { check: number; passes: boolean; at_ms: number; event: string };

/** What stands of all that was written of a turn. */
export type Standing = {
  signs: SignAt[];
  off_ms: number | null;
  /** The event by which it was off. */
  off: string | null;
  outcomes: JoinWord[];
  opened: OpenedJoin[];
  losses: Loss[];
  notes: Note[];
  tally: number;
  lost: number;
  measures: Measure[];
  looks: Look[];
};

/** A step in its place in the run: the plan's `step`, its `again`th try, and all that came of it. */
export type Turn = Standing & {
  id: string;
  step: number;
  again: number;
  ways: Way[];
  joins: string[];
  stays: Stay[];
  skipped: boolean;
  confirmed: boolean;
  due_low_ms: number | null;
  due_high_ms: number | null;
};

export type WhyAside =
  | "over"
  | "elsewhere"
  | "not-there"
  | "unconfirmed"
  | "open"
  | "unlit"
  | "first"
  | "beyond";
export type Aside = { event: string; why: WhyAside; other: boolean };

export type RunState = {
  standing: "going" | "finished" | "stopped";
  at: string;
  turns: Turn[];
  began_ms: number;
  ended_ms: number | null;
  aside: Aside[];
};
