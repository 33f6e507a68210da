import { sayLength } from "../parts/units";
import { useUnits } from "../parts/useUnits";

export type Pass = {
  n: number;
  by: string;
  size_mm: number;
  length_mm: number;
  reduction_pct: number;
  reduction_since_anneal_pct: number;
  anneal_before: boolean;
};

/** The passes of a draw-down, an anneal standing as a line of its own before the pass that needs it. */
export function PassTable({ passes }: { passes: Pass[] }) {
  const units = useUnits();
  return (
    <div className="relative mt-2 max-h-64 overflow-y-auto border-y border-hair">
      <table className="w-full text-right text-[14px]">
        <caption className="sr-only">Passes</caption>
        <thead className="sticky top-0 bg-ground text-[13px] text-quiet">
          <tr>
            <th className="py-1 text-left font-normal">pass</th>
            <th className="font-normal">to</th>
            <th className="font-normal">length</th>
            <th className="font-normal">since anneal</th>
          </tr>
        </thead>
        <tbody className="figures">
          {passes.map((pass) => [
            pass.anneal_before && (
              <tr key={`${String(pass.n)} anneal`}>
                <td
                  colSpan={4}
                  className="border-t-2 border-accent py-0.5 text-left font-semibold text-accent"
                >
                  anneal, quench, pickle, dry
                </td>
              </tr>
            ),
            <tr key={pass.n} className="border-t border-hair">
              <td className="py-0.5 text-left">
                {pass.n} {pass.by}
              </td>
              <td>{sayLength(pass.size_mm, units)}</td>
              <td>{sayLength(pass.length_mm, units, 0)}</td>
              <td>{pass.reduction_since_anneal_pct.toFixed(0)} %</td>
            </tr>,
          ])}
        </tbody>
      </table>
    </div>
  );
}
