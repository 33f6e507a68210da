/** The step as it is read out: its words, what to take care of, its figure, the piece. */
import { useEffect, useRef } from "react";
import type { RunHere } from "../happened/follow";
import { CautionText } from "../ladder/HeatDetail";
import { sayDegrees } from "../parts/units";
import { useUnits } from "../parts/useUnits";
import { AimedPicture } from "./AimedPicture";
import { sayCopies } from "./copies";
import { isBurning, isWrong, openOf } from "./doings";
import { Meanwhile } from "./Meanwhile";
import { Measured } from "./Measured";
import { Photos } from "./Photos";
import { awaited, FlameClock, heatAt, StageList } from "./Stages";
import { BigNumber, BlockHot, Details } from "./StepFace";
import { Tally } from "./Tally";
import { useNever } from "./useOffers";
import type { Press } from "./useRunHere";
import { lookAt, recordAt, titleOfStep } from "./words";

export type StepToldProps = { here: RunHere; press: Press };

export function StepTold({ here, press }: StepToldProps) {
  const { view: run, turn, asOf } = here;
  const { step } = run;
  const heat = heatAt(run);
  const units = useUnits();
  const led = heat !== null && heat.stages.length > 0;
  const [first, ...others] = step.lines?.length ? step.lines : [step.text];
  const look = lookAt(run, turn.looks);
  const over = isOver(here);
  const [never] = useNever(here).never;
  const rest = led || look || over || never ? [] : others;
  // What was read before the flame was lit no longer competes with the sign.
  const lit = (heat?.flame.signs.length ?? 0) > 0;
  const mark = step.kind === "heat" && !led && !over ? sayDegrees(step.working_c, units) : null;
  const heading = useRef<HTMLHeadingElement>(null);
  // The step is what is read out, and no button or link keeps the keys.
  useEffect(() => {
    if (turn.id) heading.current?.focus({ preventScroll: true });
  }, [turn.id]);
  return (
    <div className="relative mt-4 grid sm:mt-6 min-h-0 flex-1 content-start gap-x-10 gap-y-4 overflow-y-auto lg:grid-cols-[minmax(0,1fr)_330px] lg:content-stretch">
      <div className="min-w-0">
        <p className="text-[15px] text-quiet">
          {titleOfStep(step)}
          {(led || endOf(here) || over || never) && ` · ${first ?? ""}`}
        </p>
        <h1
          ref={heading}
          tabIndex={-1}
          className="mt-1 text-[28px] leading-[1.22] sm:text-[38px] font-semibold text-pretty outline-none"
        >
          {never?.text ?? headOf(here)}
        </h1>
        {/* In another try what is done otherwise comes before what the step says as ever. */}
        {run.told.map((otherwise) => (
          <p key={otherwise} className="mt-3 text-[24px] leading-snug font-semibold text-warn text-pretty">
            {otherwise}
          </p>
        ))}
        {rest.map((sentence) => (
          <p key={sentence} className="mt-3 text-[24px] leading-snug text-pretty">
            {sentence}
          </p>
        ))}
        {/* What is seen comes first: a caution is read before the flame is lit, a sign while it burns. */}
        {led ? !faultOf(here) && <StageList {...heat} /> : !over && <Details run={run} looks={turn.looks} />}
        {step.kind === "inspect" && <Photos run={run.id} turn={turn.id} className="mt-5" />}
        {(step.kind === "cool" || step.kind === "pickle") && <Meanwhile run={run.id} />}
        <div className="mt-3 max-w-3xl text-[18px]">
          {run.cautions.map((caution) => (
            <CautionText key={`${caution.code}-${caution.about.join()}`} caution={caution} brief={lit} />
          ))}
        </div>
      </div>
      <div className="min-w-0 max-lg:flex max-lg:flex-wrap max-lg:items-start max-lg:gap-8 max-lg:text-left lg:text-right">
        {heat ? (
          <FlameClock run={run} flame={heat.flame} asOf={asOf} offMs={turn.off_ms} mark={mark} />
        ) : (
          !never && <BigNumber run={run} asOf={asOf} />
        )}
        <BlockHot untilMs={here.blockUntilMs} run={run} asOf={asOf} />
        <Measured key={`size ${turn.id}`} here={here} press={press} />
        {!over && <Tally here={here} press={press} />}
        {step.parts.length > 0 && <AimedPicture here={here} />}
      </div>
    </div>
  );
}

/** What is read first: the sign that is waited for, what is looked at, or else what to do. */
function headOf(here: RunHere): string {
  const { view: run, turn } = here;
  const { step } = run;
  const heat = heatAt(run);
  if (isOver(here)) return faultOf(here) ?? (isOpen(here) ? LOOK : "It came out as it should.");
  if (heat && heat.stages.length > 0) return awaited(heat.flame, heat.stages);
  const look = lookAt(run, turn.looks);
  if (look) return `${look.title}: ${look.check.how}`;
  const end = endOf(here);
  return end ? `Until ${end.words}.` : (step.lines?.[0] ?? step.text);
}

const LOOK = "Flame off. Look at it as it lies, before it is moved.";

/** Whether the flame of a heat is off: how it came out is read then, and no more how it is heated. */
const isOver = ({ view: { step }, turn }: RunHere) => step.kind === "heat" && turn.off_ms !== null;

/** Whether something of a heat still waits for its word. */
const isOpen = ({ view, turn, work }: RunHere) => openOf(view, turn, work).length > 0;

/** What went wrong in a heat, once all is said of it. */
function faultOf(here: RunHere): string | null {
  const { view: run, turn, words } = here;
  if (!isWrong(run, turn, words) || isOpen(here)) return null;
  const titles = new Map((recordAt(run)?.outcomes ?? []).map(({ join, title }) => [join, title] as const));
  const said = turn.outcomes.map(({ join, outcome, copies }) => {
    const word = words.find((known) => known.outcome === outcome);
    const which = copies.length > 0 ? ` ${sayCopies(copies)}` : "";
    return word && !word.sound
      ? `${titles.get(join) ?? ""}${which}: ${word.words.toLowerCase().replace(": ", ", ")}.`
      : "";
  });
  return said.filter(Boolean).join(" ") || null;
}

/** The sign that ends a heat which nobody knows the time of: while it burns that is what is looked for. */
const endOf = ({ view: { step }, turn }: RunHere) =>
  step.kind === "heat" && isBurning(step, turn) ? step.signs?.at(-1) : undefined;
