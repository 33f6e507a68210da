import { useRef } from "react";
import type { RecordView, RunView } from "../api/types";
import type { RunHere } from "../happened/follow";
import { LengthField } from "../parts/LengthField";
import { sayLength, type Units } from "../parts/units";
import { useUnits } from "../parts/useUnits";
import type { Press } from "./useRunHere";

export type MeasuredProps = { here: RunHere; press: Press };

type Target = NonNullable<Extract<RunView["step"], { kind: "work" }>["target"]>;

/** Where a step has a size: what it is to be, and what it is, written down and judged. */
export function Measured({ here: { view, turn }, press }: MeasuredProps) {
  const { step } = view;
  const units = useUnits();
  const target = step.kind === "work" ? step.target : null;
  const known = turn.measures.find(({ what }) => what === "size_mm");
  const mm = known?.value ?? 0;
  // A field tells at Enter, and again as it is left: what was just written is not written twice.
  const told = useRef(mm);
  if (!target) return null;
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
          if (value === told.current) return;
          told.current = value;
          if (value) void press({ kind: "measure", turn: turn.id, what: "size_mm", value });
          else if (known) void press({ kind: "undo", of: known.event });
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
