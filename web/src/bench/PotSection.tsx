import type { Bench } from "../api/types";
import { NumberField, Tick } from "../parts/Field";
import { LengthField } from "../parts/LengthField";
import { optionsOf } from "../parts/Select";
import { PotCare } from "./PotCare";

type Vessel = NonNullable<Bench["vessels"]>[number];

export type PotSectionProps = { bench: Bench; onChange: (what: Partial<Bench>) => void };

const VESSELS = optionsOf<Vessel["kind"]>({
  hearth: "Hearth",
  "quench-bowl": "Quench bowl",
  pot: "Pot",
});

/** How the pickle is, and how much room there is: what does not fit, or comes out pink, is told in the plan. */
export function PotSection({ bench, onChange }: PotSectionProps) {
  const pot = bench.pot ?? { copper_g_l: 0, iron_touched: false };
  const vessels = bench.vessels ?? [];
  const size = (kind: Vessel["kind"], key: "length_mm" | "width_mm", mm: number) => {
    const rest = vessels.filter((vessel) => vessel.kind !== kind);
    const before = vessels.find((vessel) => vessel.kind === kind) ?? { kind, length_mm: mm, width_mm: null };
    onChange({ vessels: mm > 0 ? [...rest, { ...before, [key]: mm }] : rest });
  };
  return (
    <section aria-label="Pot and vessels" className="mt-8 mb-8">
      <h2 className="text-[17px] font-semibold">Pot and vessels</h2>
      <div className="mt-2 grid grid-cols-4 items-end gap-x-4 gap-y-2">
        <NumberField
          label="Copper in the pot"
          unit="g/l"
          value={pot.copper_g_l}
          onCommit={(copper_g_l) => onChange({ pot: { ...pot, copper_g_l } })}
        />
        <Tick
          label="Iron has touched it"
          ticked={pot.iron_touched}
          onTick={(iron_touched) => onChange({ pot: { ...pot, iron_touched } })}
        />
        <NumberField
          label="In the pot"
          unit="litres"
          value={pot.litres ?? 0}
          onCommit={(litres) => onChange({ pot: { ...pot, litres: litres > 0 ? litres : null } })}
        />
      </div>
      <PotCare pot={pot} onMix={(mixed) => onChange({ pot: mixed })} />
      <div className="mt-2 grid grid-cols-6 items-end gap-x-3">
        {VESSELS.map(([kind, words]) => {
          const own = vessels.find((vessel) => vessel.kind === kind);
          return [
            <LengthField
              key={`${kind}-length`}
              label={`${words}, long`}
              mm={own?.length_mm ?? 0}
              zero
              onCommit={(mm) => size(kind, "length_mm", mm)}
            />,
            <LengthField
              key={`${kind}-width`}
              label={`${words}, wide`}
              zero
              mm={own?.width_mm ?? own?.length_mm ?? 0}
              onCommit={(mm) => size(kind, "width_mm", mm)}
            />,
          ];
        })}
      </div>
      <p className="mt-1 text-[14px] text-quiet">0 where it is not known.</p>
    </section>
  );
}
