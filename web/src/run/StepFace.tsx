/** The face of a step: how far the run is, what to look for, the one number, the parts in hand. */
import type { RunView } from "../api/types";
import type { Turn } from "../happened/events";
import type { RunHere } from "../happened/follow";
import { Button } from "../parts/Button";
import { least, most } from "../parts/extent";
import { sayDegrees } from "../parts/units";
import { useUnits } from "../parts/useUnits";
import { saySeconds } from "../parts/words";
import { offsetOf, readTimer, sayClock, secondsUntil, useTick } from "../shell/clock";
import { Help } from "../shell/Help";
import { AtTorch } from "./AtTorch";
import { Rest } from "./Rest";
import type { Awake } from "./useAwake";
import { lookAt, recordAt, sayTry, titlesOf } from "./words";

export function Progress({
  here,
  awake,
  onStop,
  onLeave,
}: {
  here: RunHere;
  awake: Awake;
  onStop: () => void;
  onLeave: () => void;
}) {
  const run = here.view;
  const { step } = run;
  return (
    <header>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1 text-[17px] whitespace-nowrap">
        <b className="font-semibold">{run.piece_name}</b>
        <span className="figures text-quiet">
          step {run.position} of {run.steps.length}
        </span>
        {run.again > 1 && <b className="font-semibold text-warn">{sayTry(run.again)}</b>}
        {step.kind === "heat" && (
          <span className="figures text-quiet">
            heat {step.heat_no} of {run.heats}
            {step.rehearsed?.likely_s ? ` · about ${saySeconds(step.rehearsed.likely_s)}` : ""}
          </span>
        )}
        <div className="ml-auto flex flex-wrap items-center justify-end gap-x-3">
          <AtTorch awake={awake} className="min-h-11 px-2 text-[16px] text-quiet hover:text-ink lg:px-4" />
          <Rest here={here} className="min-h-11 px-2 text-[16px] text-quiet hover:text-ink lg:px-4" />
          <Help className="min-h-11 px-2 text-[16px] text-quiet hover:text-ink max-lg:hidden lg:px-4" />
          <Button look="bare" onClick={onLeave}>
            Leave it running
          </Button>
          <Button look="bare" onClick={onStop}>
            Stop
          </Button>
        </div>
      </div>
      <div className="mt-2 flex gap-1" aria-hidden>
        {run.steps.map((kind, n) => (
          <span
            key={`${kind}-${String(n)}`}
            className={`h-1.5 flex-1 ${n + 1 === run.position ? "bg-accent" : n + 1 < run.position ? "bg-metal" : "bg-hair"}`}
          />
        ))}
      </div>
    </header>
  );
}

/** The lists of a step: the signs of a heat in their order, or what is looked at. */
export function Details({ run, looks }: { run: RunView; looks: Turn["looks"] }) {
  const { step } = run;
  const units = useUnits();
  if (step.kind === "heat") {
    return (
      <ol className="mt-5 max-w-3xl border-t border-hair text-[20px]" aria-label="What to look for">
        {(step.signs ?? []).map((sign) => (
          <li key={sign.words} className="flex gap-8 border-b border-hair py-1">
            <span className="figures w-24 shrink-0 text-quiet">
              {sign.at_c === null ? "" : sayDegrees(sign.at_c, units)}
            </span>
            <span>{sign.words}</span>
          </li>
        ))}
      </ol>
    );
  }
  if (step.kind === "inspect") {
    const titles = titlesOf(run.records);
    const made = new Map(looks.map(({ check, passes }) => [check, passes]));
    const now = lookAt(run, looks)?.n;
    // One that is asked alone stands above, as large as can be.
    if (step.checks.length === 1 && now === 1) return null;
    return (
      <ul className="mt-5 max-w-3xl border-t border-hair text-[19px]" aria-label="Looked at">
        {step.checks.map((check, n) => (
          <li
            key={`${check.about} ${check.how}`}
            aria-current={n + 1 === now ? "step" : undefined}
            className={`flex gap-4 border-b border-hair py-2 ${n + 1 === now ? "" : "text-quiet"}`}
          >
            <span className="w-28 shrink-0">{sayLook(made.get(n + 1))}</span>
            <span>
              <b className="font-semibold">{titles.get(check.about) ?? check.about}</b> {check.how}
              {made.get(n + 1) === false && (
                <span className="block font-semibold text-warn">{check.otherwise}.</span>
              )}
            </span>
          </li>
        ))}
      </ul>
    );
  }
  return null;
}

const sayLook = (passes: boolean | undefined): string =>
  passes === undefined ? "" : passes ? "✓ passes" : "✗ does not";

/** How long what the last heat lay on is too hot to touch; nothing once it is not. */
export function BlockHot({ untilMs, run, asOf }: { untilMs: number | null; run: RunView; asOf: number }) {
  const here = useTick();
  if (untilMs === null || run.step.kind === "heat") return null;
  const left = secondsUntil(new Date(untilMs).toISOString(), offsetOf(run.now, asOf), here);
  if (left <= 0) return null;
  return (
    <p role="timer" aria-label="Block hot" className="mt-3 text-[19px] font-semibold text-warn">
      The block stays hot: <span className="figures">{sayClock(left)}</span>
    </p>
  );
}

/** One number: the timer of a pot or of cooling, or nothing. */
export function BigNumber({ run, asOf }: { run: RunView; asOf: number }) {
  const here = useTick();
  const record = recordAt(run);
  const offset = offsetOf(run.now, asOf);
  if (!record) return null;
  if (record.due_low && record.due_high) {
    const timer = readTimer(record.due_low, record.due_high, offset, here);
    const words = {
      waiting:
        record.due_low === record.due_high
          ? "until it is cold"
          : `then look; at the latest in ${sayClock(secondsUntil(record.due_high, offset, here))}`,
      ready: "may come out; at the latest in this time",
      over: "over its time: take it out",
    }[timer.state];
    return (
      <div role="timer" aria-label="Time left">
        <p className="figures text-[72px] leading-none font-bold sm:text-[112px]" data-testid="big-timer">
          {sayClock(timer.seconds)}
        </p>
        <p className="mt-2 text-[19px] text-quiet">{words}</p>
      </div>
    );
  }
  return null;
}

/** The parts of the step at hand only, in their place, with the joins that it makes. */
export function pictureOf(run: RunView): RunView["picture"] {
  const inside = new Set(run.step.parts.map((part) => part.split("#")[0]));
  const made = new Set(run.step.kind === "heat" ? run.step.joins.map((row) => row.join) : []);
  const parts = run.picture.parts.filter((part) => inside.has(part.part));
  const joins = run.picture.joins.filter((mark) => made.has(mark.join));
  return parts.length > 0 ? framed({ ...run.picture, parts, joins }) : { ...run.picture, joins };
}

function framed(picture: RunView["picture"]): RunView["picture"] {
  const xs = picture.parts.flatMap((part) =>
    part.lines.flatMap((line) =>
      line.points.flatMap(([x]) => [x - line.width_mm / 2, x + line.width_mm / 2]),
    ),
  );
  const ys = picture.parts.flatMap((part) =>
    part.lines.flatMap((line) =>
      line.points.flatMap(([, y]) => [y - line.width_mm / 2, y + line.width_mm / 2]),
    ),
  );
  const [left, right, top, low] = [least(xs), most(xs), least(ys), most(ys)];
  return { ...picture, left_mm: left, top_mm: top, width_mm: right - left, height_mm: low - top };
}
