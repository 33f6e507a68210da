import { writeMeasure } from "../api/queries";
import type { RecordView, RunView } from "../api/types";
import { LengthField } from "../parts/LengthField";
import { sayLength, type Units } from "../parts/units";
import { useUnits } from "../parts/useUnits";
import type { Actions } from "./useActions";
import { recordAt } from "./words";

export type MeasuredProps = { run: RunView; take: Actions["take"] };

type Target = NonNullable<Extract<RunView["step"], { kind: "work" }>["target"]>;

/** Where a step has a size: what it is to be, and what it is, written down and judged. */
export function Measured({ run, take }: MeasuredProps) {
  const { step, position } = run;
  const units = useUnits();
  const target = step.kind === "work" ? step.target : null;
  if (!target) return null;
  const mm = recordAt(run)?.measured_mm ?? 0;
  return (
    <div className="mt-5 px-1 text-left">
      <p className="figures text-right text-[40px] leading-none font-bold">
        {sayLength(target.mm, units, 2)}
      </p>
      <p className="mb-3 text-right text-quiet">
        {`${target.what ? `${target.what}, ` : ""}within ${sayLength(target.within_mm, units, 2)}`}
      </p>
      <LengthField
        label="Measured"
        zero
        mm={mm}
        onCommit={(value) => {
          take(() => writeMeasure(run, position, value || null));
          // The keys of the run are the smith's again.
          if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
        }}
      />
      {mm > 0 && (
        <p className={`mt-2 text-[20px] font-semibold ${isWithin(mm, target) ? "text-accent" : "text-warn"}`}>
          {judged(mm, target, units)}
        </p>
      )}
    </div>
  );
}

/** What was measured in a step of the log, in a line; nothing where nobody measured. */
export function measuredLine(record: RecordView, units: Units): string {
  const target = record.step.kind === "work" ? record.step.target : null;
  if (!target || record.measured_mm == null) return "";
  return `${sayLength(record.measured_mm, units, 2)}: ${judged(record.measured_mm, target, units)}`;
}

const isWithin = (mm: number, target: Target): boolean => Math.abs(mm - target.mm) <= target.within_mm + 1e-9;

function judged(mm: number, target: Target, units: Units): string {
  if (isWithin(mm, target)) return "as it is to be";
  const off = sayLength(Math.abs(mm - target.mm), units, 2);
  return mm > target.mm ? `${off} too large` : `${off} too small`;
}
