import type { BenchView, HouseOverrides } from "../api/types";
import { ChoicesOf } from "./HouseChoices";

export type UnitsSectionProps = { house: BenchView["house"]; onChange: (what: HouseOverrides) => void };

/** The units that the house types and reads in. */
export function UnitsSection({ house, onChange }: UnitsSectionProps) {
  return (
    <section>
      <h2 className="text-[17px] font-semibold">Units</h2>
      <div className="mt-1 grid grid-cols-2 gap-x-4 gap-y-2">
        <ChoicesOf shown="units" house={house} own={{}} follows="" onChange={onChange} />
      </div>
    </section>
  );
}
