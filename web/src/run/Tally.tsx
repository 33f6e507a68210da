import { useEffect, useState } from "react";
import { writeTally } from "../api/queries";
import type { RunView } from "../api/types";
import { ActionKey } from "../shell/ActionKey";
import { useKeys } from "../shell/keys";
import type { Actions } from "./useActions";
import { recordAt } from "./words";

export type TallyProps = { run: RunView; take: Actions["take"] };

/** Of many alike, how many are done: counted up by a key, kept at every press. */
export function Tally({ run, take }: TallyProps) {
  const { step, position } = run;
  const alike = step.alike ?? 1;
  const kept = recordAt(run)?.tally ?? 0;
  const [done, setDone] = useState(kept);
  // What was counted at another screen is taken over; a press that is on its way is ahead of it.
  useEffect(() => setDone((now) => Math.max(now, kept)), [kept]);
  const count = (to: number) => {
    setDone(to);
    take(() => writeTally(run, position, to));
  };
  const more = done < alike ? () => count(done + 1) : undefined;
  useKeys({ "run.tally": alike > 1 ? more : undefined });
  if (alike < 2) return null;
  return (
    <fieldset aria-label="Done of those alike" className="mt-5">
      <output className="figures block text-[40px] leading-none font-bold">
        {done} of {alike}
      </output>
      <div className="mt-2 h-2 overflow-hidden rounded bg-sunk" aria-hidden>
        <div className="h-full bg-accent" style={{ width: `${String((100 * done) / alike)}%` }} />
      </div>
      <div className="mt-2 flex gap-2">
        <button
          type="button"
          disabled={!more}
          onClick={more}
          className="flex min-h-14 flex-1 items-center justify-center gap-3 rounded-lg border border-hair text-[20px] hover:border-quiet disabled:opacity-40"
        >
          <ActionKey of="run.tally" />
          One more
        </button>
        <button
          type="button"
          disabled={done === 0}
          onClick={() => count(done - 1)}
          className="min-h-14 rounded-lg border border-hair px-4 text-[17px] text-quiet hover:border-quiet disabled:opacity-40"
        >
          One less
        </button>
      </div>
    </fieldset>
  );
}
