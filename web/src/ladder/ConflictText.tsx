import type { PieceDocument, Plan } from "../api/types";
import { Button } from "../parts/Button";
import { Key } from "../parts/Key";
import { type BrokenDemand, type Remedy, remedyOf } from "../piece/remedies";
import { useKeys } from "../shell/keys";

export type ConflictTextProps = {
  conflict: NonNullable<Plan["conflict"]>;
  document: PieceDocument;
  onRemedy: (remedy: Remedy) => void;
};

/** Keys for the ways out; b is the way back to the best. */
const LETTERS = "acdefghij";

/** Why there is no plan: the demands that cannot all be met, and a way out of each, one key where there is one. */
export function ConflictText({ conflict, document, onRemedy }: ConflictTextProps) {
  const ways = conflict.demands.map((demand) => [demand, remedyOf(document, demand)] as const);
  const offered = ways.flatMap(([, remedy]) => (remedy ? [remedy] : []));
  useKeys(Object.fromEntries(offered.map((remedy, n) => [LETTERS[n] ?? "", () => onRemedy(remedy)])));
  return (
    <div className="max-w-3xl py-6" role="alert">
      <p className="text-[28px] font-semibold">No plan is possible.</p>
      <p className="mt-1 text-[17px] text-quiet">
        {conflict.demands.length > 1
          ? "These demands cannot all be met. Letting any one of them go makes a plan possible."
          : "This cannot be met."}
      </p>
      <ol className="mt-5 border-t border-hair">
        {ways.map(([demand, remedy]) => (
          <Way
            key={`${demand.code}-${demand.ids.join()}`}
            demand={demand}
            remedy={remedy}
            letter={remedy ? LETTERS[offered.indexOf(remedy)] : undefined}
            onRemedy={onRemedy}
          />
        ))}
      </ol>
    </div>
  );
}

type WayProps = {
  demand: BrokenDemand;
  remedy: Remedy | null;
  letter: string | undefined;
  onRemedy: (remedy: Remedy) => void;
};

function Way({ demand, remedy, letter, onRemedy }: WayProps) {
  return (
    <li className="flex items-center justify-between gap-6 border-b border-hair py-3">
      <div>
        <p className="text-[19px] font-semibold">{demand.text}</p>
        <p className="text-[16px] text-quiet">{demand.remedy}</p>
      </div>
      {remedy && letter && (
        <Button className="shrink-0" onClick={() => onRemedy(remedy)}>
          {remedy.words} <Key>{letter}</Key>
        </Button>
      )}
    </li>
  );
}
