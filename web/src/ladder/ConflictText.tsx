import { useBench, useTables } from "../api/queries";
import type { PieceDocument } from "../api/types";
import { type BrokenDemand, type Conflict, type Remedy, remediesOf } from "../document/remedies";
import { Button } from "../parts/Button";
import { Key } from "../parts/Key";
import { useKeys } from "../shell/keys";

export type ConflictTextProps = {
  conflict: Conflict;
  document: PieceDocument;
  onRemedy: (remedy: Remedy) => void;
};

/** Keys for the ways out; b is the way back to the best. */
const LETTERS = "acdefghij";

/** Why there is no plan: the demands that cannot all be met, and a way out of each, one key where there is one. */
export function ConflictText({ conflict, document, onRemedy }: ConflictTextProps) {
  const tables = useTables().data;
  const stocked = useBench().data?.bench.solders;
  const shelf = {
    mostShieldC: tables?.most_shield_c ?? 0,
    solders: tables?.solders ?? [],
    stocked: document.bench?.solders ?? stocked ?? [],
  };
  const ways = conflict.demands.map(
    (demand) => [demand, remediesOf(document, conflict, demand, shelf)] as const,
  );
  const offered = ways.flatMap(([, remedies]) => remedies);
  useKeys(
    {},
    { offered: Object.fromEntries(offered.map((remedy, n) => [LETTERS[n] ?? "", () => onRemedy(remedy)])) },
  );
  return (
    <div className="max-w-3xl py-6" role="alert">
      <p className="text-[28px] font-semibold">No plan is possible.</p>
      <p className="mt-1 text-[17px] text-quiet">
        {conflict.demands.length > 1
          ? "These demands cannot all be met. Letting any one of them go makes a plan possible."
          : "This cannot be met."}
      </p>
      <ol className="mt-5 border-t border-hair">
        {ways.map(([demand, remedies]) => (
          <Way
            key={`${demand.code}-${demand.ids.join()}`}
            demand={demand}
            remedies={remedies.map((remedy) => [remedy, LETTERS[offered.indexOf(remedy)] ?? ""] as const)}
            onRemedy={onRemedy}
          />
        ))}
      </ol>
    </div>
  );
}

type WayProps = {
  demand: BrokenDemand;
  remedies: (readonly [Remedy, string])[];
  onRemedy: (remedy: Remedy) => void;
};

function Way({ demand, remedies, onRemedy }: WayProps) {
  return (
    <li className="flex items-center justify-between gap-6 border-b border-hair py-3">
      <div>
        <p className="text-[19px] font-semibold">{demand.text}</p>
        <p className="text-[16px] text-quiet">{demand.remedy}</p>
      </div>
      {remedies.length > 0 && (
        <div className="flex shrink-0 flex-col items-end gap-2">
          {remedies.map(([remedy, letter]) => (
            <Button key={remedy.words} onClick={() => onRemedy(remedy)}>
              {remedy.words} {letter && <Key>{letter}</Key>}
            </Button>
          ))}
        </div>
      )}
    </li>
  );
}
