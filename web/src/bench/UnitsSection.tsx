import type { BenchView, HouseOverrides } from "../api/types";
import { Choice } from "../parts/Field";

export type UnitsSectionProps = { house: BenchView["house"]; onChange: (what: HouseOverrides) => void };

/** The units that the house types and reads in. */
export function UnitsSection({ house, onChange }: UnitsSectionProps) {
  return (
    <section>
      <h2 className="text-[17px] font-semibold">Units</h2>
      <div className="mt-1 grid grid-cols-2 gap-x-4 gap-y-2">
        <Choice
          label="Lengths"
          value={house.units}
          options={[
            ["mm", "mm"],
            ["inch", "inch"],
          ]}
          onChoose={(units) => onChange({ units })}
        />
        <Choice
          label="Gauge beside it"
          value={house.gauge_shown}
          options={[
            ["yes", "shown"],
            ["no", "not shown"],
          ]}
          onChoose={(shown) => onChange({ gauge_shown: shown })}
        />
        <Choice
          label="Temperatures"
          value={house.temperature}
          options={[
            ["c", "°C"],
            ["f", "°F"],
          ]}
          onChoose={(unit) => onChange({ temperature: unit })}
        />
        <Choice
          label="Masses"
          value={house.mass}
          options={[
            ["g", "grams"],
            ["troy", "troy"],
          ]}
          onChoose={(unit) => onChange({ mass: unit })}
        />
      </div>
    </section>
  );
}
