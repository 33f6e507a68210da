import { useQueryClient } from "@tanstack/react-query";
import { Link, useNavigate, useParams } from "@tanstack/react-router";
import { useEffect, useRef, useState } from "react";
import {
  advanceRun,
  backInRun,
  recordOutcome,
  stopRun,
  takeBackOutcome,
  useRun,
  writeNote,
} from "../api/queries";
import type { OutcomeWord, RunView } from "../api/types";
import { CautionText } from "../ladder/HeatDetail";
import { Ask } from "../parts/Ask";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { Key } from "../parts/Key";
import { PictureView } from "../piece/PictureView";
import { offsetOf, readTimer, sayClock, secondsUntil, useTick } from "../shell/clock";
import { setAtTorch } from "../shell/face";
import { useKeys } from "../shell/keys";
import { headAndRest, outcomeFor, titleOfStep } from "./words";

/** At the torch: one step fills the screen; the next by space bar, pedal or a wide touch. */
export function RunPage() {
  const { run } = useParams({ from: "/run/$run" });
  const asked = useRun(Number(run));
  useEffect(() => {
    setAtTorch(true);
    return () => setAtTorch(false);
  }, []);
  if (asked.error && !asked.data) {
    return (
      <div className="p-10">
        <FaultList error={asked.error} />
        <Link to="/work" className="mt-4 inline-block underline">
          Back to Work
        </Link>
      </div>
    );
  }
  if (!asked.data) return <p className="p-10 text-quiet">Opening…</p>;
  if (asked.data.state !== "going") return <Over run={asked.data} />;
  return <Going run={asked.data} asOf={asked.dataUpdatedAt} />;
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

/** Actions on a run: one at a time, each answered by the run as it then stands. */
function useActions(run: RunView) {
  const cache = useQueryClient();
  const busy = useRef(false);
  const [error, setError] = useState<unknown>(null);
  const tail = useRef<Promise<unknown>>(Promise.resolve());
  /** Carry something out after what is still on its way, so that answers come in their order. */
  const take = (step: () => Promise<RunView>) => {
    const carryOut = async () => {
      try {
        cache.setQueryData(["run", run.id], await step());
        setError(null);
      } catch (problem) {
        setError(problem);
        void cache.invalidateQueries({ queryKey: ["run", run.id] });
      }
      void cache.invalidateQueries({ queryKey: ["rail"] });
      void cache.invalidateQueries({ queryKey: ["log"] });
    };
    const done = tail.current.then(carryOut);
    tail.current = done;
    return done;
  };
  /** Carry a key's action out, unless the last one is still on its way: a key pressed twice counts once. */
  const act = async (step: () => Promise<RunView>) => {
    if (busy.current) return;
    busy.current = true;
    await take(step);
    busy.current = false;
  };
  return { act, take, error };
}

function Going({ run, asOf }: { run: RunView; asOf: number }) {
  const go = useNavigate();
  const { act, take, error } = useActions(run);
  const [noting, setNoting] = useState(false);
  const [stopping, setStopping] = useState(false);
  const { step } = run;
  const record = run.records.find((one) => one.n === run.position);
  const said = new Map((record?.outcomes ?? []).map((one) => [one.join, one.words]));
  const open = step.kind === "heat" ? step.joins.find((row) => !said.has(row.join)) : undefined;
  const next = () =>
    void act(() => advanceRun(run, { confirmed: step.kind === "prepare" && step.confirm === true }));
  const say = (word: OutcomeWord) => open && void act(() => recordOutcome(run, open.join, word.outcome));
  const back = () => void act(() => (said.size > 0 ? takeBackOutcome(run) : backInRun(run)));
  const keyed = Object.fromEntries(run.words.map((word) => [word.key, open ? () => say(word) : undefined]));
  useKeys(
    {
      ...keyed,
      space: open ? () => say(outcomeFor(run.words, "space")) : next,
      b: run.position > 1 || said.size > 0 ? back : undefined,
      n: () => setNoting(true),
      s: () => void act(() => advanceRun(run, { skipped: true, confirmed: true })),
      escape: () => setNoting(false),
    },
    true,
  );
  const { head, rest } = headAndRest(step.text);
  const heading = useRef<HTMLHeadingElement>(null);
  // The step is what is read out, and no button or link keeps the keys.
  useEffect(() => {
    if (step.n > 0) heading.current?.focus({ preventScroll: true });
  }, [step.n]);
  return (
    <div className="flex h-full flex-col px-10 pt-5 pb-4">
      <Progress run={run} onStop={() => setStopping(true)} onLeave={() => void go({ to: "/work" })} />
      <div className="mt-6 grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_330px] gap-10 overflow-y-auto">
        <div className="min-w-0">
          <p className="text-[15px] text-quiet">{titleOfStep(step)}</p>
          <h1
            ref={heading}
            tabIndex={-1}
            className="mt-1 text-[38px] leading-[1.22] font-semibold text-pretty outline-none"
          >
            {head}
          </h1>
          {rest.map((sentence) => (
            <p key={sentence} className="mt-3 text-[24px] leading-snug text-pretty">
              {sentence}
            </p>
          ))}
          <div className="mt-3 max-w-3xl text-[18px]">
            {run.cautions.map((caution) => (
              <CautionText key={`${caution.code}-${caution.about.join()}`} caution={caution} />
            ))}
          </div>
          <Details run={run} />
        </div>
        <div className="min-w-0 text-right">
          <BigNumber run={run} asOf={asOf} />
          {step.parts.length > 0 && (
            <div className="mt-6 ml-auto h-60 w-full">
              <PictureView picture={pictureOf(run)} size={[330, 224]} />
            </div>
          )}
        </div>
      </div>
      <FaultList error={error} />
      {noting && (
        <NoteLine run={run} note={record?.note ?? ""} take={take} onClose={() => setNoting(false)} />
      )}
      <div className="mt-4">
        {open ? (
          <Outcomes
            words={run.words}
            title={open.title}
            many={step.kind === "heat" && step.joins.length > 1}
            onSay={say}
          />
        ) : (
          <Onward
            said={step.kind === "heat" ? [...said.values()] : []}
            run={run}
            onNext={next}
            onBack={back}
            onNote={() => setNoting(true)}
            onSkip={() => void act(() => advanceRun(run, { skipped: true, confirmed: true }))}
          />
        )}
      </div>
      <Ask
        open={stopping}
        title={`Stop the run of ${run.piece_name}?`}
        yes="Stop the run"
        onClose={() => setStopping(false)}
        onYes={() => {
          setStopping(false);
          void act(() => stopRun(run));
        }}
      >
        What was done stays in the log; the run cannot be taken up again.
      </Ask>
    </div>
  );
}

function Progress({ run, onStop, onLeave }: { run: RunView; onStop: () => void; onLeave: () => void }) {
  const { step } = run;
  return (
    <header>
      <div className="flex items-center gap-5 text-[17px]">
        <b className="font-semibold">{run.piece_name}</b>
        <span className="figures text-quiet">
          step {run.position} of {run.steps.length}
        </span>
        {step.kind === "heat" && (
          <span className="figures text-quiet">
            heat {step.heat_no} of {run.heats}
          </span>
        )}
        <Button look="bare" className="ml-auto" onClick={onLeave}>
          Leave it running
        </Button>
        <Button look="bare" onClick={onStop}>
          Stop
        </Button>
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
function Details({ run }: { run: RunView }) {
  const { step } = run;
  if (step.kind === "heat") {
    return (
      <ol className="mt-5 max-w-3xl border-t border-hair text-[20px]" aria-label="What to look for">
        {step.look_for.map((sign) => {
          const [degrees, words] = sign.includes(": ")
            ? [sign.split(": ")[0], sign.split(": ").slice(1).join(": ")]
            : ["", sign];
          return (
            <li key={sign} className="flex gap-8 border-b border-hair py-1.5">
              <span className="figures w-24 shrink-0 text-quiet">{degrees}</span>
              <span>{words}</span>
            </li>
          );
        })}
      </ol>
    );
  }
  if (step.kind === "inspect") {
    const titles = new Map(
      run.records.flatMap((one) =>
        one.step.kind === "heat" ? one.step.joins.map((row) => [row.join, row.title] as const) : [],
      ),
    );
    return (
      <ul className="mt-6 max-w-3xl border-t border-hair text-[21px]">
        {step.checks.map((check) => (
          <li key={check.about} className="border-b border-hair py-2.5">
            <b className="font-semibold">{titles.get(check.about) ?? check.about}</b> {check.how}
            <p className="text-[18px] text-quiet">
              Passes: {check.passes}. If not: {check.otherwise}.
            </p>
          </li>
        ))}
      </ul>
    );
  }
  return null;
}

/** One number: the timer of a pot or of cooling, the time under the flame with its temperature, or nothing. */
function BigNumber({ run, asOf }: { run: RunView; asOf: number }) {
  const here = useTick();
  const record = run.records.find((one) => one.n === run.position);
  const offset = offsetOf(run.now, asOf);
  if (!record) return null;
  if (record.due_low && record.due_high) {
    const timer = readTimer(record.due_low, record.due_high, offset, here);
    const words = {
      waiting: `then look; at the latest in ${sayClock(secondsUntil(record.due_high, offset, here))}`,
      ready: "may come out; at the latest in this time",
      over: "over its time: take it out",
    }[timer.state];
    return (
      <div role="timer" aria-label="Time left">
        <p className="figures text-[112px] leading-none font-bold" data-testid="big-timer">
          {sayClock(timer.seconds)}
        </p>
        <p className="mt-2 text-[19px] text-quiet">{words}</p>
      </div>
    );
  }
  if (run.step.kind !== "heat") return null;
  return (
    <div>
      <p className="figures text-[112px] leading-none font-bold">
        {sayClock(-secondsUntil(record.started_at, offset, here))}
      </p>
      <p className="mt-2 text-[19px] text-quiet">
        at it so far; <span className="figures text-ink">{Math.round(run.step.working_c)} °C</span> is the
        mark
      </p>
    </div>
  );
}

type OutcomesProps = {
  words: OutcomeWord[];
  title: string;
  many: boolean;
  onSay: (word: OutcomeWord) => void;
};

function Outcomes({ words, title, many, onSay }: OutcomesProps) {
  return (
    <fieldset aria-label={`How did ${title} come out?`}>
      <p className="mb-2 text-[20px]">
        How did <b className="font-semibold">{title}</b> come out?
        {many && <span className="text-quiet"> One join after another.</span>}
      </p>
      <div className="flex gap-2.5">
        {words.map((word, n) => (
          <button
            key={word.outcome}
            type="button"
            onClick={() => onSay(word)}
            className={`flex min-h-[72px] flex-1 items-center gap-3 rounded-lg border px-3 text-left text-[18px] leading-tight ${n === 0 ? "flex-[1.5] border-accent bg-accent-soft font-semibold" : "border-hair hover:border-quiet"}`}
          >
            <Key>{word.key}</Key>
            {word.words}
          </button>
        ))}
      </div>
    </fieldset>
  );
}

type OnwardProps = {
  run: RunView;
  said: string[];
  onNext: () => void;
  onBack: () => void;
  onNote: () => void;
  onSkip: () => void;
};

function Onward({ run, said, onNext, onBack, onNote, onSkip }: OnwardProps) {
  const { step } = run;
  const confirm = step.kind === "prepare" && step.confirm;
  const waits = step.kind === "cool" || step.kind === "pickle";
  const last = run.position === run.steps.length;
  const side = "min-h-[72px] rounded-lg border border-hair px-5 text-[18px] hover:border-quiet";
  return (
    <div className="flex items-stretch gap-2.5">
      <button
        type="button"
        onClick={onNext}
        className="flex min-h-[72px] min-w-0 flex-1 items-center gap-4 rounded-lg border border-accent bg-accent-soft px-5 text-left"
      >
        <Key>space</Key>
        <span className="shrink-0 text-[22px] font-semibold">
          {confirm ? "I have read it" : last ? "Done" : waits ? "It is out" : "Next"}
        </span>
        <span className="min-w-0 truncate text-[17px] text-quiet">
          {said.length > 0 ? said.join(", ") : run.next_text}
        </span>
      </button>
      <button
        type="button"
        className={side}
        onClick={onBack}
        disabled={run.position === 1 && said.length === 0}
      >
        <Key>b</Key> Back
      </button>
      <button type="button" className={side} onClick={onNote}>
        <Key>n</Key> Note
      </button>
      <button type="button" className={side} onClick={onSkip}>
        <Key>s</Key> Skip
      </button>
    </div>
  );
}

type NoteLineProps = {
  run: RunView;
  note: string;
  take: (step: () => Promise<RunView>) => Promise<void>;
  onClose: () => void;
};

function NoteLine({ run, note, take, onClose }: NoteLineProps) {
  const [text, setText] = useState(note);
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.focus(), []);
  const keep = () => {
    if (text !== note) void take(() => writeNote(run, run.position, text));
    onClose();
  };
  return (
    <div className="mt-3 flex items-center gap-3">
      <label htmlFor="note" className="text-[18px] text-quiet">
        Note
      </label>
      <input
        ref={field}
        id="note"
        className="min-h-14 flex-1 rounded-lg border border-hair bg-raised px-4 text-[20px]"
        value={text}
        maxLength={4000}
        onChange={(event) => setText(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => {
          if (event.key === "Enter") event.currentTarget.blur();
          if (event.key === "Escape") onClose();
        }}
      />
    </div>
  );
}

/** The parts of the step at hand only, in their place, with the joins that it makes. */
function pictureOf(run: RunView): RunView["picture"] {
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
  const [left, right, top, low] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  return { ...picture, left_mm: left, top_mm: top, width_mm: right - left, height_mm: low - top };
}
