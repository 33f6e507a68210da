import type { RunHere } from "../happened/follow";
import { ActionKey } from "../shell/ActionKey";
import { useKeys } from "../shell/keys";
import type { Press } from "./useRunHere";

export type TallyProps = { here: RunHere; press: Press };

/** Of many alike, how many are done and how many are lost: counted up by a key each, kept at every press. */
export function Tally({ here: { view, turn }, press }: TallyProps) {
  const alike = view.step.alike ?? 1;
  const { tally: done, lost } = turn;
  const left = alike - done - lost;
  const count = (now: { done?: number; lost?: number }) =>
    void press({ kind: "tally", turn: turn.id, done, lost, ...now });
  const more = left > 0 ? () => count({ done: done + 1 }) : undefined;
  const lose = left > 0 ? () => count({ lost: lost + 1 }) : undefined;
  useKeys({ "run.tally": alike > 1 ? more : undefined, "run.lost": alike > 1 ? lose : undefined });
  if (alike < 2) return null;
  return (
    <fieldset aria-label="Done of those alike" className="mt-5">
      <output className="figures block text-[40px] leading-none font-bold">
        {done} of {alike}
        {lost > 0 && <span className="block pt-1 text-[22px] font-semibold text-warn">{lost} lost</span>}
      </output>
      <div className="mt-2 flex h-2 overflow-hidden rounded bg-sunk" aria-hidden>
        <div className="h-full bg-accent" style={{ width: `${String((100 * done) / alike)}%` }} />
        <div className="h-full bg-warn" style={{ width: `${String((100 * lost) / alike)}%` }} />
      </div>
      <div className="mt-2 grid grid-cols-2 gap-2">
        <button type="button" disabled={!more} onClick={more} className={`${COUNT} col-span-2 text-[20px]`}>
          <ActionKey of="run.tally" />
          One more
        </button>
        <button type="button" disabled={!lose} onClick={lose} className={`${COUNT} text-[17px] text-quiet`}>
          <ActionKey of="run.lost" />
          One lost
        </button>
        <button
          type="button"
          disabled={done + lost === 0}
          onClick={() => count(done > 0 ? { done: done - 1 } : { lost: lost - 1 })}
          className={`${COUNT} text-[17px] text-quiet`}
        >
          One less
        </button>
      </div>
    </fieldset>
  );
}

const COUNT =
  "flex min-h-16 items-center justify-center gap-3 rounded-lg border border-hair px-3 hover:border-quiet disabled:opacity-40";
