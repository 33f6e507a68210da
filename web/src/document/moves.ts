/** Moves by hand on the ladder, as plain functions: each takes a document and the plan it has, and gives a new one. */
import type { HeatStep, PieceDocument, Plan } from "../api/types";
import { type ByHand, changeJoin, GRADES, NOT_MOVED } from "./edit";

type Grade = NonNullable<ByHand["grade"]>;
type Move = (document: PieceDocument) => PieceDocument;

/** Where a join is dropped: into a heat, or into the gap after one (0: before the first). */
export type Target = { heat: number } | { after: number };

/** What can be done by hand on a drawn ladder. */
export type Hands = {
  onGrade: (joins: readonly string[], by: 1 | -1) => void;
  onMove: (join: string, target: Target) => void;
  onSelectJoin: (join: string) => void;
  onShare: (heat: HeatStep, to: number) => void;
  onPin: (join: string) => void;
};

export const heatsOf = (plan: Plan): HeatStep[] => plan.steps.filter((step) => step.kind === "heat");

export const heatOf = (plan: Plan, join: string): HeatStep | undefined =>
  heatsOf(plan).find((heat) => heat.joins.some((row) => row.join === join));

/** The joins that were moved by hand. */
export const movedJoins = (document: PieceDocument): string[] =>
  document.joins.filter((join) => join.by_hand).map((join) => join.id);

/** Let the plan choose everything again that was moved by hand; what the piece itself demands stays. */
export const backToBest: Move = (document) => ({
  ...document,
  joins: document.joins.map((join) => ({ ...join, by_hand: null })),
});

/** Take back what was moved by hand of one join. */
export const letGo = (document: PieceDocument, id: string): PieceDocument =>
  changeJoin(document, id, { by_hand: null });

function change(document: PieceDocument, id: string, values: Partial<ByHand>): PieceDocument {
  const before = document.joins.find((join) => join.id === id)?.by_hand ?? NOT_MOVED;
  const moved = { ...before, ...values };
  const empty = !moved.grade && [moved.shares, moved.apart, moved.after].every((ids) => ids.length === 0);
  return changeJoin(document, id, { by_hand: empty ? null : moved });
}

/** Forget where others were told to wait for a join, or to share with it: it goes elsewhere now. */
function forget(document: PieceDocument, id: string): PieceDocument {
  const without = (ids: string[]) => ids.filter((each) => each !== id);
  return document.joins.reduce((now, join) => {
    const moved = join.by_hand;
    if (!moved || join.id === id) return now;
    return change(now, join.id, {
      shares: without(moved.shares),
      apart: without(moved.apart),
      after: without(moved.after),
    });
  }, document);
}

/** The next softer (1) or harder (-1) grade of joins of one heat, by hand; nothing where there is none. */
export function stepGrade(
  document: PieceDocument,
  joins: readonly string[],
  from: string,
  by: 1 | -1,
): PieceDocument | null {
  const at = (GRADES as readonly string[]).indexOf(from);
  const grade = at < 0 ? undefined : (GRADES[at + by] as Grade | undefined);
  if (!grade) return null;
  return joins.reduce((now, id) => change(now, id, { grade }), document);
}

/** Move a join into another heat, or give it one of its own between two. Nothing where it is there already. */
export function moveJoin(
  document: PieceDocument,
  plan: Plan,
  id: string,
  target: Target,
): PieceDocument | null {
  const heats = heatsOf(plan);
  const own = heatOf(plan, id);
  if (!own) return null;
  const mates = own.joins.map((row) => row.join).filter((each) => each !== id);
  if ("heat" in target) {
    const heat = heats.find((each) => each.heat_no === target.heat);
    const other = heat?.joins[0]?.join;
    if (!heat || heat === own || !other) return null;
    return change(forget(document, id), id, { shares: [other], apart: [], after: [] });
  }
  const before = heats.find((each) => each.heat_no === target.after);
  const next = heats.find((each) => each.heat_no === target.after + 1);
  const already = mates.length === 0 && (before === own || next === own);
  if (already) return null;
  const joinsOf = (heat: HeatStep | undefined) =>
    (heat?.joins ?? []).map((row) => row.join).filter((each) => each !== id);
  const moved = change(forget(document, id), id, {
    shares: [],
    apart: mates,
    after: joinsOf(before),
  });
  return joinsOf(next).reduce(
    (now, each) => change(now, each, { after: [...new Set([...afterOf(now, each), id])] }),
    moved,
  );
}

const afterOf = (document: PieceDocument, id: string): string[] =>
  document.joins.find((join) => join.id === id)?.by_hand?.after ?? [];

/** Bring every join of a heat into another one. */
export function shareHeat(
  document: PieceDocument,
  plan: Plan,
  heat: HeatStep,
  to: number,
): PieceDocument | null {
  const other = heatsOf(plan).find((each) => each.heat_no === to);
  const first = other?.joins[0]?.join;
  if (!first || heat.joins.length === 0) return null;
  return heat.joins.reduce(
    (now, row) => change(forget(now, row.join), row.join, { shares: [first], apart: [], after: [] }),
    document,
  );
}

/** Give every join of a heat one of its own. */
export function splitHeat(document: PieceDocument, heat: HeatStep): PieceDocument | null {
  const joins = heat.joins.map((row) => row.join);
  if (joins.length < 2) return null;
  return joins.reduce((now, id, n) => change(now, id, { shares: [], apart: joins.slice(n + 1) }), document);
}

/** Keep a join's solder and its company as the plan has them now, whatever else changes; or let that go again. */
export function pinJoin(document: PieceDocument, plan: Plan, id: string): PieceDocument | null {
  const heat = heatOf(plan, id);
  if (!heat) return null;
  if (document.joins.find((join) => join.id === id)?.by_hand) return letGo(document, id);
  const row = heat.joins.find((each) => each.join === id);
  const mates = heat.joins.map((each) => each.join).filter((each) => each !== id);
  return change(document, id, { grade: row?.grade ?? null, shares: mates.slice(0, 1) });
}
