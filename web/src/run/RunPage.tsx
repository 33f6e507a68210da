import { Link, useNavigate, useParams } from "@tanstack/react-router";
import { useEffect, useRef, useState } from "react";
import {
  advanceRun,
  backInRun,
  doAgain,
  pressSign,
  recordOutcome,
  sendBack,
  stopRun,
  takeBackOutcome,
  takeBackSign,
  useRail,
  useRun,
} from "../api/queries";
import type { OutcomeWord, RunView } from "../api/types";
import { PictureView } from "../drawing/PictureView";
import { CautionText } from "../ladder/HeatDetail";
import { Ask } from "../parts/Ask";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { setAtTorch } from "../shell/face";
import { useKeys } from "../shell/keys";
import { useCue } from "./cue";
import { useAtTorch } from "./kept";
import { Measured } from "./Measured";
import { awaited, FlameClock, SignKey, StageList, stagesOf } from "./Stages";
import { BigNumber, Details, Progress, pictureOf } from "./StepFace";
import { BackTo, NoteLine, Onward, Outcomes, Tries } from "./StepKeys";
import { Tally } from "./Tally";
import { useActions } from "./useActions";
import { useAwake } from "./useAwake";
import { outcomeFor, recordAt, titleOfStep } from "./words";

/** At the torch: one step fills the screen; the next by space bar, pedal or a wide touch. */
export function RunPage() {
  const { run } = useParams({ from: "/run/$run" });
  const asked = useRun(Number(run));
  useEffect(() => {
    setAtTorch(true);
    return () => setAtTorch(false);
  }, []);
  const told = asked.data;
  if (asked.error && !asked.data) {
    return (
      <div className="p-10">
        <FaultList error={asked.error} />
        <StopUnread run={Number(run)} />
        <Link to="/work" className="mt-4 inline-block underline">
          Back to Work
        </Link>
      </div>
    );
  }
  if (!told) return <p className="p-10 text-quiet">Opening…</p>;
  if (told.state !== "going") return <Over run={told} />;
  return <Going run={told} asOf={asked.dataUpdatedAt} />;
}

/** A run that cannot be read can still be stopped, so that it does not stand in the rail for ever. */
function StopUnread({ run }: { run: number }) {
  const rail = useRail();
  const go = useNavigate();
  const entry = rail.data?.entries.find((one) => one.run === run);
  if (!entry) return null;
  const stop = async () => {
    await stopRun({ id: run, position: entry.position });
    await rail.refetch();
    await go({ to: "/work" });
  };
  return (
    <Button className="mt-4" onClick={() => void stop()}>
      Stop this run
    </Button>
  );
}

function Over({ run }: { run: RunView }) {
  return (
    <div className="flex h-full flex-col items-start justify-center gap-6 px-12">
      <p className="text-[44px] leading-tight font-semibold">
        {run.state === "finished"
          ? `${run.piece_name} is done.`
          : `The run of ${run.piece_name} was stopped.`}
      </p>
      <p className="text-[22px] text-quiet">
        Every step and outcome is in the log. Weigh it, and write down what worked.
      </p>
      <div className="flex gap-4">
        <Link
          to="/log/$run"
          params={{ run: String(run.id) }}
          className="inline-flex min-h-16 items-center rounded-md bg-ink px-8 text-[20px] font-semibold text-ground"
        >
          Open it in the log
        </Link>
        <Link
          to="/work"
          className="inline-flex min-h-16 items-center rounded-md border border-hair px-8 text-[20px]"
        >
          Back to Work
        </Link>
      </div>
    </div>
  );
}

type Doing = ReturnType<typeof useDoing>;
type Way = RunView["ways"][number]["way"];

function Going({ run, asOf }: { run: RunView; asOf: number }) {
  const go = useNavigate();
  const doing = useDoing(run);
  const [stopping, setStopping] = useState(false);
  const awake = useAwake();
  useCue(run, asOf);
  return (
    <div className="flex h-full flex-col px-10 pt-5 pb-4">
      <Progress
        run={run}
        awake={awake}
        onStop={() => setStopping(true)}
        onLeave={() => void go({ to: "/work" })}
      />
      <StepTold run={run} asOf={asOf} take={doing.take} />
      {doing.away && (
        <p role="status" className="text-[17px] text-warn">
          Eskel does not answer; it is tried again until it does.
        </p>
      )}
      <FaultList error={doing.error} />
      <Answering run={run} doing={doing} />
      <Ask
        open={stopping}
        title={`Stop the run of ${run.piece_name}?`}
        yes="Stop the run"
        onClose={() => setStopping(false)}
        onYes={() => {
          setStopping(false);
          doing.stop();
        }}
      >
        What was done stays in the log; the run cannot be taken up again.
      </Ask>
    </div>
  );
}

/** What can be done at a step, by key and by touch: on, back, skip, stop, and how each join came out. */
function useDoing(run: RunView) {
  const { act, take, away, error } = useActions(run.id);
  const [noting, setNoting] = useState(false);
  const { step } = run;
  const record = recordAt(run);
  const said = new Map((record?.outcomes ?? []).map((outcome) => [outcome.join, outcome.words]));
  const open = step.kind === "heat" ? step.joins.find((row) => !said.has(row.join)) : undefined;
  const flame = run.flame;
  const [otherwise, setOtherwise] = useState(0);
  // A heat that is led by its signs asks how it came out after the last of them, or when it went otherwise.
  const sign = flame && open && otherwise !== run.position && said.size === 0 ? flame.next : null;
  const onward = () =>
    act(() => advanceRun(run, { confirmed: step.kind === "prepare" && step.confirm === true }));
  const see = () => act(() => pressSign(run, sign ?? 0));
  const skip = () => act(() => advanceRun(run, { skipped: true }));
  const say = (word: OutcomeWord) => open && act(() => recordOutcome(run, open.join, word.outcome));
  const back = () => {
    if (otherwise === run.position && said.size === 0) return setOtherwise(0);
    act(() =>
      said.size > 0
        ? takeBackOutcome(run)
        : (flame?.signs.length ?? 0) > 0
          ? takeBackSign(run)
          : backInRun(run),
    );
  };
  const next = sign !== null ? see : open ? () => say(outcomeFor(run.words, "space")) : onward;
  const again = (way: Way) => act(() => doAgain(run, way));
  const sent = (heat: number) => act(() => sendBack(run, heat));
  // Once every join is answered for, what fits what went wrong has the keys of the outcomes.
  const keyed = open
    ? Object.fromEntries(run.words.map((word) => [word.key, () => say(word)]))
    : Object.fromEntries(
        [
          ...run.ways.map(
            ({ way }) =>
              () =>
                again(way),
          ),
          ...run.back_to.map(
            ({ heat_no }) =>
              () =>
                sent(heat_no),
          ),
        ].map((tried, n) => [String(n + 2), tried]),
      );
  const { pedal } = useAtTorch();
  useKeys(
    {
      "run.next": next,
      "run.back": run.position > 1 || said.size > 0 ? back : undefined,
      "run.note": () => setNoting(true),
      "run.skip": skip,
      "run.close": () => setNoting(false),
    },
    { spaceIsOurs: true, offered: pedal === null ? keyed : { ...keyed, [pedal]: next } },
  );
  const stop = () => act(() => stopRun(run));
  const wrong = () => setOtherwise(run.position);
  return {
    next,
    skip,
    say,
    again,
    sent,
    back,
    stop,
    take,
    open,
    said,
    sign,
    wrong,
    noted: record?.note ?? "",
    noting,
    setNoting,
    away,
    error,
  };
}

/** The step as it is read out: its words, what to take care of, its figure, the piece. */
function StepTold({ run, asOf, take }: { run: RunView; asOf: number; take: Doing["take"] }) {
  const { step } = run;
  const led = stagesOf(run);
  const [first, ...others] = step.lines?.length ? step.lines : [step.text];
  const head = led ? awaited(led.flame, led.stages) : first;
  const rest = led ? [] : others;
  // What was read before the flame was lit no longer competes with the sign.
  const lit = (led?.flame.signs.length ?? 0) > 0;
  const heading = useRef<HTMLHeadingElement>(null);
  // The step is what is read out, and no button or link keeps the keys.
  useEffect(() => {
    if (step.n > 0) heading.current?.focus({ preventScroll: true });
  }, [step.n]);
  return (
    <div className="relative mt-6 grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_330px] gap-10 overflow-y-auto">
      <div className="min-w-0">
        <p className="text-[15px] text-quiet">
          {titleOfStep(step)}
          {led && ` · ${first ?? ""}`}
        </p>
        <h1
          ref={heading}
          tabIndex={-1}
          className="mt-1 text-[38px] leading-[1.22] font-semibold text-pretty outline-none"
        >
          {head}
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
        {led ? <StageList {...led} /> : <Details run={run} />}
        <div className="mt-3 max-w-3xl text-[18px]">
          {run.cautions.map((caution) => (
            <CautionText key={`${caution.code}-${caution.about.join()}`} caution={caution} brief={lit} />
          ))}
        </div>
      </div>
      <div className="min-w-0 text-right">
        {led ? <FlameClock run={run} flame={led.flame} asOf={asOf} /> : <BigNumber run={run} asOf={asOf} />}
        <Measured key={`size ${String(run.position)}.${String(run.again)}`} run={run} take={take} />
        <Tally key={`${String(run.position)}.${String(run.again)}`} run={run} take={take} />
        {step.parts.length > 0 && (
          <div className="mt-6 ml-auto h-60 w-full">
            <PictureView picture={pictureOf(run)} size={[330, 224]} />
          </div>
        )}
      </div>
    </div>
  );
}

/** Under the step: how a join came out, or on to the next; a note at any time. */
function Answering({ run, doing }: { run: RunView; doing: Doing }) {
  const { step } = run;
  const led = stagesOf(run);
  return (
    <>
      {doing.noting && (
        <NoteLine run={run} note={doing.noted} take={doing.take} onClose={() => doing.setNoting(false)} />
      )}
      <div className="mt-4">
        {led && doing.sign !== null ? (
          <SignKey
            {...led}
            onSeen={doing.next}
            onBack={doing.back}
            onNote={() => doing.setNoting(true)}
            onSkip={doing.skip}
            onWrong={doing.wrong}
          />
        ) : doing.open ? (
          <Outcomes
            words={run.words}
            title={doing.open.title}
            many={step.kind === "heat" && step.joins.length > 1}
            onSay={doing.say}
          />
        ) : (
          <>
            {run.ways.length > 0 && <Tries ways={run.ways} onTry={doing.again} />}
            {run.back_to.length > 0 && <BackTo heats={run.back_to} onBack={doing.sent} />}
            <Onward
              said={step.kind === "heat" ? [...doing.said.values()] : []}
              run={run}
              asItIs={run.ways.length > 0}
              onNext={doing.next}
              onBack={doing.back}
              onNote={() => doing.setNoting(true)}
              onSkip={doing.skip}
            />
          </>
        )}
      </div>
    </>
  );
}
