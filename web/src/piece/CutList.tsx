import { useCutting } from "../api/queries";
import type { CutAndSolder, PieceView } from "../api/types";
import { removeCut } from "../document/edit";
import type { Edits } from "../document/useEdits";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { Tip } from "../parts/Tip";
import { sayArea, sayLength, sayMass } from "../parts/units";
import { useUnits } from "../parts/useUnits";
import { BarsView } from "./BarsView";
import { SheetsView } from "./SheetsView";

/** What is cut and from what, what solder it takes, and what is to be bought. */
export function CutList({ view, edits }: { view: PieceView; edits: Edits }) {
  const asked = useCutting(view.id, view.revision);
  const units = useUnits();
  const list = asked.data;
  if (asked.error) return <FaultList error={asked.error} />;
  if (!list) return <p className="text-quiet">Adding up…</p>;
  if (list.rows.length === 0) return <p className="text-quiet">Nothing to cut yet: add a part first.</p>;
  const metal = Object.values(list.mass_by_metal_g).reduce((sum, mass) => sum + mass, 0);
  return (
    <div>
      <header className="flex items-end justify-between gap-6">
        <p>
          <span className="block text-[15px] text-quiet">
            Metal in all{view.document.copies > 1 ? `, ${String(view.document.copies)} copies` : ""}
          </span>
          <span className="figures text-[40px] leading-none font-bold">{sayMass(metal, units)}</span>
        </p>
        <div className="flex gap-2 print:hidden">
          {(["pdf", "csv"] as const).map((ending) => (
            <a
              key={ending}
              download
              href={`/api/pieces/${String(view.id)}/cut-list.${ending}`}
              className="inline-flex min-h-10 items-center rounded-md border border-hair bg-raised px-4 text-[15px] font-medium hover:border-quiet"
            >
              {ending.toUpperCase()}
            </a>
          ))}
        </div>
      </header>
      <div className="mt-5 grid grid-cols-[minmax(0,1fr)_370px] gap-10">
        <div>
          <Cuts list={list} view={view} edits={edits} />
          <BarsView plans={list.lengths} />
          <SheetsView sheets={list.sheets} />
        </div>
        <div>
          <Buying list={list} />
          <Soldering list={list} />
        </div>
      </div>
    </div>
  );
}

type CutsProps = { list: CutAndSolder; view: PieceView; edits: Edits };

function Cuts({ list, view, edits }: CutsProps) {
  const units = useUnits();
  return (
    <table className="w-full text-left text-[15px]">
      <caption className="pb-1 text-left text-[17px] font-semibold">To cut</caption>
      <thead className="text-[13px] text-quiet">
        <tr className="border-b border-hair">
          <th className="py-1 font-normal">part</th>
          <th className="font-normal">stock</th>
          <th className="text-right font-normal">how many</th>
          <th className="text-right font-normal">each</th>
          <th className="text-right font-normal">kerf</th>
          <th className="text-right font-normal">mass each</th>
        </tr>
      </thead>
      <tbody>
        {list.rows.map((row) => (
          <tr key={`${String(row.part)} ${row.id}`} className="border-b border-hair align-top">
            <td className="py-1.5 font-semibold">
              {row.title}
              {!row.part && (
                <Button
                  look="bare"
                  className="!min-h-0 px-1.5 text-[13px] print:hidden"
                  onClick={() =>
                    edits.apply(`took ${row.title} out of the cut list`, (now) => removeCut(now, row.id))
                  }
                >
                  take out
                </Button>
              )}
            </td>
            <td className="py-1.5 text-quiet">
              {row.metal_name}, {row.stock}
              {units.gauge_shown === "yes" && row.gauge && `, ${row.gauge}`}
            </td>
            <td className="figures py-1.5 text-right">{row.count}</td>
            <td className="figures py-1.5 text-right">
              {row.length_mm != null && sayLength(row.length_mm, units)}
              {row.area_mm2 != null && row.part && (
                <Tip words="The outline at 1:1, to stick on the metal">
                  <a
                    className="text-accent underline"
                    download
                    href={`/api/pieces/${String(view.id)}/outlines/${row.id}`}
                  >
                    {sayArea(row.area_mm2, units)}
                  </a>
                </Tip>
              )}
              {row.area_mm2 != null && !row.part && sayArea(row.area_mm2, units)}
            </td>
            <td className="figures py-1.5 text-right text-quiet">
              {row.kerf_mm ? sayLength(row.kerf_mm, units) : "–"}
            </td>
            <td className="figures py-1.5 text-right">{sayMass(row.mass_g, units)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Buying({ list }: { list: CutAndSolder }) {
  return (
    <section>
      <h3 className="text-[17px] font-semibold">To buy</h3>
      {list.buy.length === 0 && (
        <p className="mt-1 border-t border-hair pt-2 text-[15px]">Nothing: the bench has it all.</p>
      )}
      <ul className="mt-1 border-t border-hair text-[15px]">
        {list.buy.map((line) => (
          <li key={line.what} className="flex justify-between gap-4 border-b border-hair py-1.5">
            <span>{line.what}</span>
            <b className="figures shrink-0 font-semibold">{line.amount}</b>
          </li>
        ))}
      </ul>
      {list.scrap.map((offer) => (
        <p key={offer.metal} className="mt-2 border-l-[3px] border-accent pl-3 text-[15px]">
          {offer.text}
        </p>
      ))}
    </section>
  );
}

function Soldering({ list }: { list: CutAndSolder }) {
  const units = useUnits();
  if (list.solder.length === 0)
    return (
      <p className="mt-6 text-[15px] text-quiet">No solder yet: it comes with the joins and their heats.</p>
    );
  return (
    <section className="mt-6">
      <h3 className="text-[17px] font-semibold">Solder</h3>
      <ul className="mt-1 border-t border-hair text-[15px]">
        {list.solder.map((row) => (
          <li key={row.join} className="border-b border-hair py-1.5">
            <span className="flex justify-between gap-4">
              <b className="font-semibold">{row.join}</b>
              <span className="shrink-0">{row.amount}</span>
            </span>
            <span className="block text-[13px] text-quiet">
              {row.grade.replace("-", " ")}, {row.placing.replace("-", " ")}
            </span>
          </li>
        ))}
      </ul>
      <ul className="mt-3 text-[15px]">
        {list.solder_totals.map((solder_total) => (
          <li key={solder_total.solder} className="flex justify-between gap-4 py-0.5">
            <span className="text-quiet">{solder_total.grade.replace("-", " ")} in all</span>
            <span className="figures">
              {solder_total.mass_mg.toFixed(0)} mg
              {solder_total.left_g != null && ` of ${sayMass(solder_total.left_g, units)}`}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
