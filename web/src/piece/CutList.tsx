import { useTables } from "../api/queries";
import type { PieceView } from "../api/types";

const round = (value: number, places: number) => value.toFixed(places);

/** What is cut, and what solder it takes. */
export function CutList({ view }: { view: PieceView }) {
  const { plan, weights } = view;
  const tables = useTables();
  const names = new Map(
    [...(tables.data?.metals ?? []), ...view.document.metals].map((one) => [one.id, one.name]),
  );
  const metal =
    Object.values(weights.totals.mass_by_metal_g).reduce((sum, mass) => sum + mass, 0) * weights.copies;
  if (plan.cut_list.length === 0) return <p className="text-quiet">Nothing to cut yet: add a part first.</p>;
  return (
    <div className="grid grid-cols-[1fr_380px] gap-10">
      <table className="w-full text-left text-[15px]">
        <caption className="pb-2 text-left text-[17px] font-semibold">To cut</caption>
        <thead className="text-[13px] text-quiet">
          <tr className="border-b border-hair">
            <th className="py-1 font-normal">part</th>
            <th className="font-normal">stock</th>
            <th className="text-right font-normal">how many</th>
            <th className="text-right font-normal">each</th>
            <th className="text-right font-normal">mass each</th>
          </tr>
        </thead>
        <tbody>
          {plan.cut_list.map((line) => (
            <tr key={line.part} className="border-b border-hair">
              <td className="py-1.5 font-semibold">{line.title}</td>
              <td className="text-quiet">
                {names.get(line.metal ?? "") ?? line.metal}, {line.stock}
              </td>
              <td className="figures text-right">{line.count}</td>
              <td className="figures text-right">
                {line.blank.length_mm != null && `${round(line.blank.length_mm, 2)} mm`}
                {line.blank.area_mm2 != null && `${round(line.blank.area_mm2, 0)} mm²`}
              </td>
              <td className="figures text-right">
                {line.mass_g != null ? `${round(line.mass_g, 2)} g` : "–"}
              </td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr>
            <td className="py-2 text-quiet" colSpan={4}>
              metal in all{weights.copies > 1 ? `, ${String(weights.copies)} copies` : ""}
            </td>
            <td className="figures text-right text-lg font-bold">{round(metal, 2)} g</td>
          </tr>
        </tfoot>
      </table>
      <table className="w-full self-start text-left text-[15px]">
        <caption className="pb-2 text-left text-[17px] font-semibold">Solder</caption>
        <thead className="text-[13px] text-quiet">
          <tr className="border-b border-hair">
            <th className="py-1 font-normal">solder</th>
            <th className="text-right font-normal">joins</th>
            <th className="text-right font-normal">mass</th>
          </tr>
        </thead>
        <tbody>
          {plan.solder_list.map((line) => (
            <tr key={line.solder} className="border-b border-hair">
              <td className="py-1.5 font-semibold">{line.grade.replace("-", " ")}</td>
              <td className="figures text-right">{line.joins.length}</td>
              <td className="figures text-right">{round(line.mass_g * 1000, 0)} mg</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
