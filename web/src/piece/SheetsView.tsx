import type { CutAndSolder } from "../api/types";
import { keyed } from "../parts/keyed";
import { bareLength, sayLength } from "../parts/units";
import { useUnits } from "../parts/useUnits";

/** How outlines lie on the sheets on the bench, each to be printed at 1:1. */
export function SheetsView({ sheets }: { sheets: CutAndSolder["sheets"] }) {
  const units = useUnits();
  if (sheets.length === 0) return null;
  return (
    <section className="mt-7">
      <h3 className="text-[17px] font-semibold">On the sheets on the bench</h3>
      <div className="mt-2 grid grid-cols-2 gap-6">
        {keyed(sheets).map(({ key, one: sheet }) => (
          <figure key={key}>
            <img
              src={asAddress(sheet.svg)}
              alt={`${sheet.placed.join(", ")} on ${sheet.stock}`}
              className="max-h-52 w-full bg-white object-contain object-left p-2"
            />
            <figcaption className="mt-1 text-[14px] text-quiet">
              {sheet.metal}, {sheet.stock},{" "}
              <span className="figures">
                {bareLength(sheet.width_mm, units)} × {sayLength(sheet.height_mm, units, 0)}
              </span>
              : {sheet.used_pct.toFixed(0)} % used,{" "}
              <span className="figures">
                {bareLength(Math.round(sheet.left_width_mm), units)} ×{" "}
                {sayLength(sheet.left_height_mm, units, 0)}
              </span>{" "}
              left whole.{" "}
              <a className="text-accent underline" download="sheet.svg" href={asAddress(sheet.svg)}>
                At 1:1
              </a>
            </figcaption>
          </figure>
        ))}
      </div>
    </section>
  );
}

const asAddress = (svg: string) => `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
