/** Until when what a heat lay on is too hot to touch. */
import type { RunSheet } from "../api/types";
import type { RunState } from "./events";

const MINUTE_MS = 60_000;

/** The moment, ms, at which what the last heat of a run lay on can be touched; null where there was none, or nothing it lay on. */
export function blockUntilMs(sheet: RunSheet, state: RunState): number | null {
  let last: { n: number; leftMs: number } | null = null;
  for (const turn of state.turns) {
    const stay = turn.stays.at(-1);
    const left = stay && !stay.back && !turn.skipped ? stay.left_ms : null;
    const step = sheet.steps[turn.step - 1];
    if (left === null || step?.kind !== "heat") continue;
    // What was put in where something went wrong cools as the heat of the plan that it is of.
    const planned = sheet.steps.findIndex((one) => one.kind === "heat" && one.heat_no === step.heat_no) + 1;
    const n = sheet.faces[turn.step - 1]?.extra ? planned : turn.step;
    if (last === null || left > last.leftMs) last = { n, leftMs: left };
  }
  // A run that goes on from another begins with the cooling of the other's last heat.
  const from = last ?? (sheet.steps[0]?.kind === "cool" ? { n: 0, leftMs: state.began_ms } : null);
  const cool = from && sheet.steps.slice(from.n).find((step) => step.kind === "cool");
  const minutes = cool?.block_minutes ?? 0;
  return from && minutes > 0 ? from.leftMs + minutes * MINUTE_MS : null;
}
