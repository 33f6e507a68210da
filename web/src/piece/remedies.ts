/** Ways out of a conflict that can be taken at once: each lets one demand go by changing the piece. */
import type { PieceDocument, Plan } from "../api/types";
import { changeJoin, titleOf } from "./edit";

export type BrokenDemand = NonNullable<Plan["conflict"]>["demands"][number];
export type Remedy = { words: string; change: (document: PieceDocument) => PieceDocument };

/** The change that lets a demand go; nothing where it lies in the bench or in the metals. */
export function remedyOf(document: PieceDocument, demand: BrokenDemand): Remedy | null {
  const [one, other] = demand.ids;
  const join = document.joins.find((each) => each.id === one);
  switch (demand.kind) {
    case "order":
      return one && other ? freeOrder(document, one, other) : null;
    case "fixed":
      return join
        ? {
            words: "Let the plan choose its solder",
            change: (now) => changeJoin(now, join.id, { solder: null, grade: null, by_hand: null }),
          }
        : null;
    case "hold":
      return join
        ? {
            words: `Bind ${titleOf(join)}, with something that is no steel`,
            change: (now) => changeJoin(now, join.id, { holds: "bound", bound_with: "other" }),
          }
        : null;
    case "shares":
    case "apart":
      return join
        ? { words: "Take the move back", change: (now) => changeJoin(now, join.id, { by_hand: null }) }
        : null;
    case "family":
      return {
        words: "Allow both families for this piece",
        change: (now) => ({ ...now, house: { ...now.house, family: "mixed" } }),
      };
    default:
      return null;
  }
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
