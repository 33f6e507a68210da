/** Ways out of a conflict that can be taken at once: each lets one demand go by changing the piece. */
import type { Join, PieceDocument, Plan, Tables } from "../api/types";
import { changeJoin, GRADES, NOT_MOVED, titleOf } from "./edit";

export type Conflict = NonNullable<Plan["conflict"]>;
export type BrokenDemand = Conflict["demands"][number];
export type Remedy = { words: string; change: (document: PieceDocument) => PieceDocument };
/** The solders there are, the ones in stock for this piece, and the most that a shield counts for, °C. */
export type Shelf = {
  mostShieldC: number;
  solders: readonly Tables["solders"][number][];
  stocked: NonNullable<NonNullable<PieceDocument["bench"]>["solders"]>;
};

/** The changes that let one demand of a conflict go; none where it lies in the metals. */
export function remediesOf(
  document: PieceDocument,
  conflict: Conflict,
  demand: BrokenDemand,
  shelf: Shelf,
): Remedy[] {
  const [one, other] = demand.ids;
  const join = document.joins.find((each) => each.id === one);
  const some = (remedy: Remedy | null) => (remedy ? [remedy] : []);
  switch (demand.kind) {
    case "order":
      return one && other ? some(freeOrder(document, one, other)) : [];
    case "fixed":
      return join
        ? [
            {
              words: "Let the plan choose its solder",
              change: (now) => changeJoin(now, join.id, { solder: null, grade: null, by_hand: null }),
            },
          ]
        : [];
    case "hold":
      return join ? [bind(join), ...shareOrShield(document, conflict, join, shelf)] : [];
    case "shares":
    case "apart":
      return join
        ? [{ words: "Take the move back", change: (now) => changeJoin(now, join.id, { by_hand: null }) }]
        : [];
    case "family":
      return [
        {
          words: "Allow both families for this piece",
          change: (now) => ({ ...now, house: { ...now.house, family: "mixed" } }),
        },
      ];
    case "stock":
      return some(moreGrades(shelf));
    default:
      return [];
  }
}

const bind = (join: Join): Remedy => ({
  words: `Bind ${titleOf(join)}, with something that is no steel`,
  change: (now) => changeJoin(now, join.id, { holds: "bound", bound_with: "other" }),
});

/** For a join that another one's heat would run again: one heat for both, or wet paper on it during that heat. */
function shareOrShield(document: PieceDocument, conflict: Conflict, join: Join, shelf: Shelf): Remedy[] {
  const named = new Set(conflict.demands.flatMap((demand) => demand.ids));
  const ordered = conflict.demands
    .filter((demand) => demand.kind === "order")
    .flatMap((demand) => demand.ids);
  const others = document.joins.filter((each) => each.id !== join.id && named.has(each.id));
  const [only] = others;
  const share: Remedy[] =
    others.length === 1 && only && !ordered.includes(join.id)
      ? [
          {
            words: "Make both in one heat",
            change: (now) => changeJoin(now, only.id, { by_hand: { ...NOT_MOVED, shares: [join.id] } }),
          },
        ]
      : [];
  if (others.length === 0) return share;
  const shields = others.map((each) => ({
    during: each.id,
    degrees_c: shelf.mostShieldC,
    how: "wet" as const,
  }));
  return [
    ...share,
    {
      words: `Keep ${titleOf(join)} wet meanwhile (${shelf.mostShieldC} °C cooler)`,
      change: (now) => changeJoin(now, join.id, { shields }),
    },
  ];
}

/** The grades that the stocked family lacks, allowed for this piece; nothing where all four are there. */
function moreGrades({ solders, stocked }: Shelf): Remedy | null {
  const ids = stocked.map((each) => (typeof each === "string" ? each : each.solder));
  const family = solders.find((row) => ids.includes(row.id))?.family ?? "us";
  const missing = solders.filter(
    (row) =>
      row.family === family && !row.cadmium && !ids.includes(row.id) && GRADES.some((g) => g === row.grade),
  );
  if (missing.length === 0) return null;
  return {
    words: `Allow ${missing.map((row) => row.name.toLowerCase()).join(", ")} as well`,
    change: (now) => ({
      ...now,
      bench: { ...now.bench, solders: [...stocked, ...missing.map((row) => row.id)] },
    }),
  };
}

/** Let an order go, whichever of the two told it. */
function freeOrder(document: PieceDocument, earlier: string, later: string): Remedy | null {
  const told =
    [...document.joins, ...document.work].some((each) => each.id === later && each.after.includes(earlier)) ||
    document.joins.some((each) => each.id === later && each.by_hand?.after.includes(earlier)) ||
    document.work.some((each) => each.id === earlier && each.before.includes(later));
  if (!told) return null;
  const without = (ids: string[], id: string) => ids.filter((each) => each !== id);
  return {
    words: "Let this order go",
    change: (now) => ({
      ...now,
      joins: now.joins.map((each) =>
        each.id === later
          ? {
              ...each,
              after: without(each.after, earlier),
              by_hand: each.by_hand ? { ...each.by_hand, after: without(each.by_hand.after, earlier) } : null,
            }
          : each,
      ),
      work: now.work.map((each) => {
        if (each.id === later) return { ...each, after: without(each.after, earlier) };
        return each.id === earlier ? { ...each, before: without(each.before, later) } : each;
      }),
    }),
  };
}
