import { usePot } from "../api/queries";
import type { Bench } from "../api/types";
import { boxed, Field, NumberField, Tick } from "../parts/Field";
import { LengthField } from "../parts/LengthField";
import { optionsOf } from "../parts/Select";
import { useUnits } from "../parts/useUnits";
import { PotCare } from "./PotCare";

type Vessel = NonNullable<Bench["vessels"]>[number];

type Pot = NonNullable<Bench["pot"]>;
const NEW_POT: Pot = { copper_g_l: 0, iron_touched: false, strength_pct: 100, pace: 1 };

export type PotSectionProps = { bench: Bench; onChange: (what: Partial<Bench>) => void };

const VESSELS = optionsOf<Vessel["kind"]>({
  hearth: "Hearth",
  "quench-bowl": "Quench bowl",
  pot: "Pot",
});

/** How the pickle is, and how much room there is: what does not fit, or comes out pink, is told in the plan. */
export function PotSection({ bench, onChange }: PotSectionProps) {
  const pot = bench.pot ?? NEW_POT;
  const keep = (more: Partial<Pot>) => onChange({ pot: { ...pot, ...more } });
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
          onCommit={(copper_g_l) => keep({ copper_g_l, copper_at: new Date().toISOString() })}
        />
        <Tick
          label="Iron has touched it"
          ticked={pot.iron_touched}
          onTick={(iron_touched) => keep({ iron_touched })}
        />
        <NumberField
          label="In the pot"
          unit="litres"
          value={pot.litres ?? 0}
          onCommit={(litres) => keep({ litres: litres > 0 ? litres : null })}
        />
        <Field label="Mixed on">
          {(id) => (
            <input
              id={id}
              type="date"
              className={boxed}
              value={pot.mixed_on ?? ""}
              onChange={(event) => keep({ mixed_on: event.target.value || null })}
            />
          )}
        </Field>
        <NumberField
          label="Strength"
          unit="% of the usual"
          value={pot.strength_pct ?? 100}
          onCommit={(strength_pct) => keep({ strength_pct })}
        />
        <Warmth pot={pot} keep={keep} />
      </div>
      <PotCare pot={pot} keep={keep} />
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

/** How warm the pot is kept, where it is kept warm; none is the acid's usual. */
function Warmth({ pot, keep }: { pot: Pot; keep: (more: Partial<Pot>) => void }) {
  const units = useUnits();
  const told = usePot().data;
  const standing = pot.bath_c ?? told?.usual_c ?? 0;
  const fahrenheit = units.temperature === "f";
  return (
    <NumberField
      label={pot.bath_c == null ? "Kept at, as usual" : "Kept at"}
      unit={fahrenheit ? "°F" : "°C"}
      value={Math.round(fahrenheit ? standing * 1.8 + 32 : standing)}
      onCommit={(typed) => {
        const celsius = Math.round(fahrenheit ? (typed - 32) / 1.8 : typed);
        if (celsius !== Math.round(standing)) keep({ bath_c: celsius });
      }}
    />
  );
}
