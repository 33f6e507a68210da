import { Link, useNavigate, useParams } from "@tanstack/react-router";
import { useEffect, useState } from "react";
import type { RunView } from "../api/types";
import type { RunHere } from "../happened/follow";
import { Ask } from "../parts/Ask";
import { FaultList } from "../parts/FaultList";
import { offsetOf, secondsUntil, useTick } from "../shell/clock";
import { setAtTorch } from "../shell/face";
import { After } from "./After";
import { Copies } from "./Copies";
import { useCue } from "./cue";
import { LookKeys } from "./LookKeys";
import { Kin, Onwards } from "./Onwards";
import { Photos } from "./Photos";
import { StopUnread } from "./RunBroke";
import { heatAt, OffKey, SignKey } from "./Stages";
import { Progress, pictureOf } from "./StepFace";
import { BackTo, Never, NoteLine, Onward, Opened, Outcomes, SideRow, Tries } from "./StepKeys";
import { StepTold } from "./StepTold";
import { useAwake } from "./useAwake";
import { type Doing, isOld, useDoing } from "./useDoing";
import { type Know, type Press, useRunHere } from "./useRunHere";
import { recordAt } from "./words";

/** At the torch: one step fills the screen; the next by space bar, pedal or a wide touch. */
export function RunPage() {
  const { run } = useParams({ from: "/run/$run" });
  const { here, trouble, press, know } = useRunHere(Number(run));
  useEffect(() => {
    setAtTorch(true);
    return () => setAtTorch(false);
  }, []);
  if (!here && trouble) {
    return (
      <div className="p-10">
        <FaultList error={trouble} />
        <StopUnread run={Number(run)} />
        <Link to="/work" className="mt-4 inline-block underline">
          Back to Work
        </Link>
      </div>
    );
  }
  if (!here) return <p className="p-10 text-quiet">Opening…</p>;
  if (here.view.state !== "going") return <Over here={here} press={press} />;
  return <Going here={here} press={press} know={know} />;
}

function Over({ here, press }: GoingProps) {
  const run = here.view;
  return (
    <div className="flex min-h-full flex-col items-start justify-center gap-6 px-4 py-6 sm:px-12">
      <p className="text-[44px] leading-tight font-semibold">
        {run.state === "finished"
          ? `${run.piece_name} is done.`
          : `The run of ${run.piece_name} was stopped.`}
      </p>
      <p className="text-[22px] text-quiet">
        Every step and outcome is in the log. Weigh it, and write down what worked: next time it is no
        guesswork.
      </p>
      <Kin run={run.id} className="text-[19px]" />
      <After here={here} press={press} />
      <div className="flex flex-wrap items-start gap-3">
        <Onwards run={run.id} name={run.piece_name} />
        <Photos run={run.id} turn={run.turn} />
      </div>
      <Kept here={here} />
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

type GoingProps = { here: RunHere; press: Press };

function Going({ here, press, know }: GoingProps & { know: Know }) {
  const go = useNavigate();
  const run = here.view;
  const [stopping, setStopping] = useState(false);
  const awake = useAwake();
  useCue(run, here.asOf);
  const early = useEarly(run, here.asOf);
  const doing = useDoing(here, press, know, early);
  return (
    <div className="flex h-full flex-col px-4 pt-3 pb-3 sm:px-10 sm:pt-5 sm:pb-4">
      <Progress
        here={here}
        awake={awake}
        onStop={() => setStopping(true)}
        onLeave={() => void go({ to: "/work" })}
      />
      <StepTold here={here} press={press} />
      <Kept here={here} />
      <FaultList error={here.fault} />
      {doing.noting && <NoteLine turn={here.turn} press={press} onClose={() => doing.setNoting(false)} />}
      <div className="mt-4">
        <Answering run={run} doing={doing} early={early} />
      </div>
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

/** How long it is until the timer of the step at hand lets it out, s; 0 where it has none, or that is over. */
function useEarly(run: RunView, asOf: number): number {
  const here = useTick();
  const due = recordAt(run)?.due_low;
  return due ? Math.max(0, secondsUntil(due, offsetOf(run.now, asOf), here)) : 0;
}

/** Where what was pressed is: on this device alone while the server is away, or set aside because another screen was first. */
function Kept({ here }: { here: RunHere }) {
  return (
    <div role="status" className="text-[17px] text-warn">
      {here.away && (
        <p>
          Eskel does not answer. Go on: what you press is kept on this device
          {here.unsent > 0 ? ` (${String(here.unsent)} so far)` : ""} and sent when it does.
        </p>
      )}
      {here.overtaken && (
        <p>
          Another screen had gone on before: your last press was set aside, and this is how the run stands.
        </p>
      )}
    </div>
  );
}

/** Under the step: how a join came out, or on to the next; a note at any time. */
function Answering({ run, doing, early }: { run: RunView; doing: Doing; early: number }) {
  const { step } = run;
  const heat = heatAt(run);
  const beside = {
    onBack: doing.back,
    onNote: () => doing.setNoting(true),
    onSkip: doing.skip,
  };
  if (doing.never.length > 0) return <Never never={doing.never} {...beside} />;
  if (heat && doing.sign !== null) {
    const first = run.position === 1 && heat.flame.signs.length === 0;
    return <SignKey {...heat} {...beside} first={first} onSeen={doing.next} onWrong={doing.wentWrong} />;
  }
  if (doing.putOut) return <OffKey {...beside} onOff={doing.next} />;
  if (doing.looking) {
    const { pass, passAll, fail } = doing.looking;
    return (
      <LookKeys
        {...beside}
        look={doing.looking}
        words={run.words}
        onPass={pass}
        onPassAll={passAll}
        onFail={fail}
      />
    );
  }
  if (doing.open && doing.choosing) {
    return <Copies title={doing.open.title} picture={pictureOf(run)} choosing={doing.choosing} />;
  }
  if (doing.open) {
    return (
      <Outcomes
        words={doing.words}
        open={doing.open}
        left={doing.left}
        onSay={doing.say}
        onAll={doing.sayAll}
      />
    );
  }
  return (
    <>
      {doing.opened && <Opened joins={doing.opened.joins} onSay={doing.opened.say} />}
      {doing.wrong && (
        <Tries
          offers={doing.offers}
          waiting={doing.waiting}
          onTake={(offer) => void doing.take(offer)}
          onLeave={doing.none ? () => void doing.onward() : undefined}
        />
      )}
      {isOld(step) && run.back_to.length > 0 && <BackTo heats={run.back_to} onBack={doing.sent} />}
      {doing.wrong ? (
        <SideRow {...beside} />
      ) : (
        <Onward
          {...beside}
          said={step.kind === "heat" ? [...doing.said.values()] : []}
          run={run}
          asked={doing.opened !== null}
          early={early}
          onNext={doing.opened ? doing.opened.unknown : doing.next}
        />
      )}
    </>
  );
}
