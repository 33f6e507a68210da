/** A heat led by its signs: the one to wait for, what to do until then, the stages before and after it. */
import type { RunView } from "../api/types";
import { saySeconds } from "../parts/words";
import { ActionKey } from "../shell/ActionKey";
import { offsetOf, sayClock, secondsUntil, useTick } from "../shell/clock";
import { SIDE_KEY, SideKeys, type SideKeysProps } from "./StepKeys";
import { recordAt } from "./words";

type Flame = NonNullable<RunView["flame"]>;
type Stage = Extract<RunView["step"], { kind: "heat" }>["stages"][number];

/** The heat at hand: its flame, and its stages, of which one that was not rehearsed has none. */
export function heatAt(run: RunView): { flame: Flame; stages: Stage[] } | null {
  return run.step.kind === "heat" && run.flame ? { flame: run.flame, stages: run.step.stages } : null;
}

/** What to wait for now: the flame to be lit, the sign of a stage, or nothing more. */
export function awaited(flame: Flame, stages: Stage[]): string {
  if (flame.next === null) return "Flame off.";
  if (flame.next === 0) return "Light the torch, away from the work.";
  return `Until ${stages[flame.next - 1]?.see ?? "it is done"}.`;
}

export function StageList({ flame, stages }: { flame: Flame; stages: Stage[] }) {
  const lit = flame.signs.find((sign) => sign.stage === 0);
  const seen = new Map(flame.signs.map((sign) => [sign.stage, sign.at]));
  return (
    <ol aria-label="Programme" className="mt-5 max-w-3xl border-t border-hair">
      {stages.map((stage, n) => {
        const at = seen.get(n + 1);
        const now = flame.next === n + 1 || (flame.next === 0 && n === 0);
        const after = at && lit ? (Date.parse(at) - Date.parse(lit.at)) / 1000 : null;
        return (
          <li
            key={stage.text}
            aria-current={now ? "step" : undefined}
            className={`grid grid-cols-[4.5rem_1fr] gap-3 border-b border-hair py-2 leading-snug ${now ? "text-[22px]" : "text-[17px] text-quiet"}`}
          >
            <span className="figures text-quiet">
              {after === null ? saySeconds(stage.likely_s) : `✓ ${saySeconds(after)}`}
            </span>
            <span>
              {stage.text}
              {now && stage.if_late && <span className="block text-[17px] text-quiet">{stage.if_late}</span>}
            </span>
          </li>
        );
      })}
    </ol>
  );
}

export type FlameClockProps = {
  run: RunView;
  flame: Flame;
  asOf: number;
  /** When the flame was put out, ms; null where that was not pressed. */
  offMs?: number | null;
  mark?: string | null;
};

/** The clock of the flame, and what the signs say of today; of a heat that was not rehearsed the `mark` that it is brought to. */
export function FlameClock({ run, flame, asOf, offMs = null, mark = null }: FlameClockProps) {
  const here = useTick();
  const offset = offsetOf(run.now, asOf);
  const lit = flame.signs.find((sign) => sign.stage === 0);
  const off = offMs === null ? offAt(run, flame) : new Date(offMs).toISOString();
  const since = lit
    ? off
      ? (Date.parse(off) - Date.parse(lit.at)) / 1000
      : -secondsUntil(lit.at, offset, here)
    : null;
  const left = flame.done_at && !off ? secondsUntil(flame.done_at, offset, here) : null;
  return (
    <div role="timer" aria-label="Under the flame">
      <p
        className={`figures leading-none font-bold ${off ? "text-[44px]" : "text-[72px] sm:text-[112px]"} ${since === null ? "text-hair" : ""}`}
      >
        {sayClock(since ?? 0)}
      </p>
      <p className="mt-2 text-[19px] text-quiet">
        {since === null
          ? "the clock begins when the flame is lit"
          : off
            ? "under the flame"
            : "since the flame was lit"}
        {mark !== null && (
          <>
            ; <span className="figures text-ink">{mark}</span> is the mark
          </>
        )}
      </p>
      {left !== null && (
        <p className="mt-3 text-[24px] font-semibold" role="status">
          {left > 0 ? `${sayClock(left)} to go` : "any moment now"}
          <span className="block text-[19px] font-normal text-quiet">{flame.today}</span>
        </p>
      )}
    </div>
  );
}

/** The wide key that puts the flame out, of a heat that was not rehearsed. */
export function OffKey({ onOff, ...beside }: SideKeysProps & { onOff: () => void }) {
  return (
    <div className="flex flex-wrap items-stretch gap-2.5">
      <button
        type="button"
        onClick={onOff}
        className="flex min-h-[72px] min-w-0 flex-1 items-center gap-4 rounded-lg border border-accent bg-accent-soft px-5 text-left max-sm:basis-full"
      >
        <ActionKey of="run.next" />
        <span className="shrink-0 text-[22px] font-semibold">Flame off</span>
        <span className="min-w-0 truncate text-[17px] text-quiet">then how it came out</span>
      </button>
      <SideKeys {...beside} />
    </div>
  );
}

/** When the flame was off: when that was pressed, or with the last sign, or else when it was first said how it came out. */
function offAt(run: RunView, flame: Flame): string | undefined {
  const last = flame.signs.at(-1);
  if (flame.next === null && last && last.stage > 0) return last.at;
  return recordAt(run)
    ?.outcomes.map(({ at }) => at)
    .sort()[0];
}

type SignKeyProps = {
  flame: Flame;
  stages: Stage[];
  /** Whether there is nothing to go back to. */
  first?: boolean;
  onSeen: () => void;
  onBack: () => void;
  onNote: () => void;
  onSkip: (() => void) | undefined;
  onWrong: () => void;
};

/** The wide key of the sign that is waited for, and what else can be done meanwhile. */
export function SignKey({
  flame,
  stages,
  first = false,
  onSeen,
  onBack,
  onNote,
  onSkip,
  onWrong,
}: SignKeyProps) {
  const next = flame.next ?? 0;
  return (
    <div className="flex flex-wrap items-stretch gap-2.5">
      <button
        type="button"
        onClick={onSeen}
        className="flex min-h-[72px] min-w-0 flex-1 items-center max-sm:basis-full gap-4 rounded-lg border border-accent bg-accent-soft px-5 text-left"
      >
        <ActionKey of="run.next" />
        <span className="shrink-0 text-[22px] font-semibold">
          {next === 0 ? "The flame is lit" : next === stages.length ? "I see it: flame off" : "I see it"}
        </span>
        <span className="min-w-0 truncate text-[17px] text-quiet">
          {next === 0 ? (stages[0]?.text ?? "then the clock runs") : stages[next - 1]?.see}
        </span>
      </button>
      <button type="button" className={SIDE_KEY} onClick={onWrong}>
        It went otherwise
      </button>
      <SideKeys first={first} onBack={onBack} onNote={onNote} onSkip={onSkip} />
    </div>
  );
}
