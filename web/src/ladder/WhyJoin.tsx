import { useWhyJoin } from "../api/queries";
import type { Alternative, PieceDocument, PieceView } from "../api/types";
import { changeJoin } from "../document/edit";
import { heatOf, moveJoin } from "../document/moves";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";

export type WhyJoinProps = {
  view: PieceView;
  join: string;
  onChange: (what: string, change: (document: PieceDocument) => PieceDocument) => void;
};

const VERDICT: Record<Alternative["verdict"], string> = {
  "as-good": "as good",
  worse: "worse",
  impossible: "cannot be",
  undecided: "not found out",
};

/** What else a join could be: every other solder and heat, each tried by the planner. */
export function WhyJoin({ view, join, onChange }: WhyJoinProps) {
  const asked = useWhyJoin(view, join);
  const told = asked.data ?? null;
  if (asked.error) return <FaultList error={asked.error} />;
  if (!told) {
    return (
      <p className="mt-3 text-quiet" role="status">
        Trying every other solder and heat…
      </p>
    );
  }
  const take = (other: Alternative) =>
    onChange("another choice by hand", (now) => taken(now, view, join, other) ?? now);
  return (
    <section aria-label={`What else ${told.title} could be`}>
      <h4 className="mt-5 font-semibold">What else could {told.title} be?</h4>
      <ul className="mt-1">
        {told.alternatives.map((other) => (
          <li key={`${other.kind}-${other.title}`} className="border-t border-hair py-2 leading-snug">
            <p className="flex items-baseline justify-between gap-2">
              <b className="font-semibold">
                {other.kind === "heat" ? other.title[0]?.toUpperCase() + other.title.slice(1) : other.title}
              </b>
              {other.verdict === "impossible" || !taken(view.document, view, join, other) ? (
                <span className="shrink-0 text-quiet">{VERDICT[other.verdict]}</span>
              ) : (
                <Button look="bare" className="!min-h-7 shrink-0 !px-2" onClick={() => take(other)}>
                  take it
                </Button>
              )}
            </p>
            <p className="text-quiet">{other.text}</p>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The document with an alternative taken by hand. */
function taken(
  document: PieceDocument,
  view: PieceView,
  join: string,
  other: Alternative,
): PieceDocument | null {
  const heat = heatOf(view.plan, join);
  if (other.kind === "heat") {
    return moveJoin(
      document,
      view.plan,
      join,
      other.heat_no === null ? { after: heat?.heat_no ?? 0 } : { heat: other.heat_no },
    );
  }
  return changeJoin(document, join, { solder: other.solder, grade: null });
}
