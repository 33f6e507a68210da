import { useTables } from "../api/queries";
import type { HeatStep, Join, PieceDocument } from "../api/types";
import { changeJoin, changeWork } from "../document/edit";
import { FLAMES, PLACINGS } from "../document/heatWords";
import { Choice } from "../parts/Field";

export type HeatChoicesProps = {
  document: PieceDocument;
  heat: HeatStep;
  onChange: (what: string, change: (document: PieceDocument) => PieceDocument) => void;
};

type Told = Partial<Pick<Join, "placing" | "heat_from" | "flux">>;

/** What the house and the bench decide for every heat, chosen for this one alone. */
export function HeatChoices({ document, heat, onChange }: HeatChoicesProps) {
  const fluxes = useTables().data?.fluxes ?? [];
  const joins = heat.joins.map((row) => row.join);
  const own: Told[] = [
    ...document.joins.filter((join) => joins.includes(join.id)),
    ...document.work.filter((work) => work.id === heat.work),
  ];
  if (own.length === 0) return null;
  const set = (what: string, told: Told) =>
    onChange(`${what} of heat ${String(heat.heat_no)}`, (now) => {
      const joined = joins.reduce((all, id) => changeJoin(all, id, told), now);
      const { placing: _, ...rest } = told;
      return heat.work ? changeWork(joined, heat.work, rest) : joined;
    });
  const known = <K extends keyof Told>(key: K): NonNullable<Told[K]> | "" =>
    own.find((one) => one[key])?.[key] ?? "";
  const soldered = heat.joins.some((row) => row.solder);
  return (
    <details className="mt-3" open={own.some((one) => one.placing || one.heat_from || one.flux)}>
      <summary className="min-h-9 cursor-pointer py-1 text-quiet">For this heat alone</summary>
      <div className="grid grid-cols-2 gap-x-3 gap-y-2">
        {soldered && (
          <Choice
            label="Placing"
            value={known("placing")}
            options={[["", "as the house"], ...PLACINGS]}
            onChoose={(placing) => set("placing", { placing: placing || null })}
          />
        )}
        <Choice
          label="Flame from"
          value={known("heat_from")}
          options={[["", "as the house"], ...FLAMES]}
          onChoose={(from) => set("flame", { heat_from: from || null })}
        />
        {heat.flux && (
          <Choice
            label="Flux"
            wide
            value={known("flux")}
            options={[["", "as on the bench"], ...fluxes.map((one) => [one.id, one.name] as const)]}
            onChoose={(flux) => set("flux", { flux: flux || null })}
          />
        )}
      </div>
    </details>
  );
}
