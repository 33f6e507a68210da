/** When a run is over: what the piece weighs, what worked, what to change; kept with its last step, for the next time. */
import { useRef, useState } from "react";
import type { RunHere } from "../happened/follow";
import { atArmsLength } from "../parts/Field";
import { MassField } from "../parts/MassField";
import { sayMass } from "../parts/units";
import { useUnits } from "../parts/useUnits";
import type { Press } from "./useRunHere";

const NOTES = [
  ["Worked", "What worked"],
  ["Change", "What to change next time"],
] as const;

export type AfterProps = { here: RunHere; press: Press };

export function After({ here: { view, turn, weighs }, press }: AfterProps) {
  const units = useUnits();
  const known = turn.measures.find(({ what }) => what === "mass_g");
  const value = known?.value ?? 0;
  // A field tells at Enter, and again as it is left: what was just written is not written twice.
  const told = useRef(value);
  const weigh = (grams: number) => {
    if (grams === told.current) return;
    told.current = grams;
    if (grams > 0) void press({ kind: "measure", turn: turn.id, what: "mass_g", value: grams });
    else if (known) void press({ kind: "undo", of: known.event });
  };
  const lost = weighs === null || value === 0 ? null : weighs - value;
  return (
    <section aria-label="Afterwards" className="grid w-full max-w-3xl gap-4">
      <div className="flex flex-wrap items-end gap-5">
        <div className={`w-48 ${atArmsLength}`}>
          <MassField label="It weighs" grams={value} onCommit={weigh} />
        </div>
        <p className="text-[17px] text-quiet">
          {weighs !== null && `${sayMass(weighs, units, 2)} were cut and laid`}
          {lost !== null &&
            `: ${sayMass(Math.abs(lost), units, 2)} ${lost >= 0 ? "filed away" : "more than that"}`}
        </p>
      </div>
      {NOTES.map(([mark, label]) => (
        <Line key={mark} mark={mark} label={label} here={{ view, turn }} press={press} />
      ))}
    </section>
  );
}

type LineProps = { mark: string; label: string; here: Pick<RunHere, "view" | "turn">; press: Press };

/** A note of its own kind: what is written again takes its place. */
function Line({ mark, label, here: { turn }, press }: LineProps) {
  const before = turn.notes.find(({ text }) => text.startsWith(`${mark}: `));
  const was = before?.text.slice(mark.length + 2) ?? "";
  const [text, setText] = useState(was);
  const keep = () => {
    const now = text.trim();
    if (now === was) return;
    if (now)
      void press({ kind: "note", turn: turn.id, text: `${mark}: ${now}`, replaces: before?.event ?? null });
    else if (before) void press({ kind: "undo", of: before.event });
  };
  return (
    <label className="block text-[15px] text-quiet">
      {label}
      <input
        className="mt-1 block min-h-14 w-full rounded-lg border border-hair bg-raised px-4 text-[18px] text-ink"
        value={text}
        maxLength={2_000}
        onChange={(event) => setText(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      />
    </label>
  );
}
