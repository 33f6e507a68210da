/** What is measured at a step: what it is to be, what it is, how far off that is, and what it was the last time. */
import { useRef } from "react";
import type { RecordView, Step } from "../api/types";
import type { MeasuredWhat } from "../happened/events";
import type { RunHere } from "../happened/follow";
import { atArmsLength } from "../parts/Field";
import { LengthField } from "../parts/LengthField";
import { MassField } from "../parts/MassField";
import { sayLength, sayMass, type Units } from "../parts/units";
import { useUnits } from "../parts/useUnits";
import type { Press } from "./useRunHere";

export type MeasuredProps = { here: RunHere; press: Press };

type Asked = { what: MeasuredWhat; to_be: number; within: number; words: string };

const WHAT: Record<MeasuredWhat, string> = {
  size_mm: "",
  length_mm: "long",
  ball_mm: "the ball, across",
  mass_g: "in all",
};

/** What a step asks to be measured; of a plan from before that was said there, its size. */
function askedOf(step: Step): Asked | null {
  if (step.measure) return step.measure;
  const target = step.kind === "work" ? step.target : null;
  return target ? { what: "size_mm", to_be: target.mm, within: target.within_mm, words: target.what } : null;
}

/** Where a step has a measure: one field, kept, and judged. */
export function Measured({ here: { view, turn }, press }: MeasuredProps) {
  const units = useUnits();
  const asked = askedOf(view.step);
  const known = turn.measures.find(({ what }) => what === asked?.what);
  const value = known?.value ?? 0;
  // A field tells at Enter, and again as it is left: what was just written is not written twice.
  const told = useRef(value);
  if (!asked) return null;
  const write = (now: number) => {
    if (now === told.current || now < 0) return;
    told.current = now;
    if (now) void press({ kind: "measure", turn: turn.id, what: asked.what, value: now });
    else if (known) void press({ kind: "undo", of: known.event });
    // The keys of the run are the smith's again.
    if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
  };
  const where = [asked.words || WHAT[asked.what], `within ${say(asked.within, asked.what, units)}`];
  const before = lastBefore(view.records, turn.id, asked.what);
  return (
    <div className={`mt-5 px-1 text-left ${atArmsLength}`}>
      <p className="figures text-right text-[40px] leading-none font-bold">
        {say(asked.to_be, asked.what, units)}
      </p>
      <p className="mb-3 text-right text-quiet">{where.filter(Boolean).join(", ")}</p>
      {asked.what === "mass_g" ? (
        <MassField label="Measured" grams={value} onCommit={write} />
      ) : (
        <LengthField label="Measured" blank mm={value} onCommit={write} />
      )}
      {value > 0 ? (
        <p
          className={`mt-2 text-[20px] font-semibold ${isWithin(value, asked) ? "text-accent" : "text-warn"}`}
        >
          {judged(value, asked, units)}
        </p>
      ) : (
        before !== null && (
          <button
            type="button"
            onClick={() => write(before)}
            className="mt-2 min-h-16 w-full rounded-lg border border-hair px-3 text-[17px] text-quiet hover:border-quiet"
          >
            As measured before: {say(before, asked.what, units)}
          </button>
        )
      )}
    </div>
  );
}

/** What was measured so the last time in this run, before a turn; null where it was not. */
function lastBefore(records: RecordView[], turn: string, what: MeasuredWhat): number | null {
  const others = records.filter((record) => record.turn !== turn);
  return others.flatMap(({ measures }) => measures).findLast((one) => one.what === what)?.value ?? null;
}

/** What was measured in a step of the log, in a line; nothing where nobody measured. */
export function measuredLine({ step, measures }: RecordView, units: Units): string {
  const asked = askedOf(step);
  return measures
    .map(({ what, value }) => {
      const told = say(value, what, units);
      return asked?.what === what ? `${told}: ${judged(value, asked, units)}` : told;
    })
    .join("; ");
}

const say = (value: number, what: MeasuredWhat, units: Units): string =>
  what === "mass_g" ? sayMass(value, units, 2) : sayLength(value, units, 2);

const isWithin = (value: number, { to_be, within }: Asked): boolean =>
  Math.abs(value - to_be) <= within + 1e-9;

function judged(value: number, asked: Asked, units: Units): string {
  if (isWithin(value, asked)) return "as it is to be";
  const off = say(Math.abs(value - asked.to_be), asked.what, units);
  const [more, less] = asked.what === "mass_g" ? ["too much", "too little"] : ["too large", "too small"];
  return `${off} ${value > asked.to_be ? more : less}`;
}
