import { Link, useParams } from "@tanstack/react-router";
import { useRun } from "../api/queries";
import type { RecordView, RunView } from "../api/types";
import { PictureView } from "../drawing/PictureView";
import { FaultList } from "../parts/FaultList";
import { useUnits } from "../parts/useUnits";
import { measuredLine } from "../run/Measured";
import { Kin, Onwards } from "../run/Onwards";
import { Photos } from "../run/Photos";
import { sayTry, titleOfStep } from "../run/words";
import { SignsBand } from "./SignsBand";
import { sayDay, saySpan, sayTime, sayWait } from "./words";

/** One run in the log: its steps with their times, outcomes and notes. */
export function LogRunPage() {
  const { run } = useParams({ from: "/log/$run" });
  const asked = useRun(Number(run));
  const told = asked.data;
  if (asked.error) {
    return (
      <div className="p-8">
        <FaultList error={asked.error} />
      </div>
    );
  }
  return told ? <Opened run={told} /> : <p className="p-8 text-quiet">Opening…</p>;
}

function Opened({ run }: { run: RunView }) {
  return (
    <div className="mx-auto max-w-[1160px] px-7 py-5">
      <p className="text-[15px]">
        <Link to="/log" className="text-accent underline">
          Log
        </Link>
      </p>
      <header className="mt-1 flex items-end justify-between gap-6">
        <div>
          <h1 className="text-[26px] font-bold">{run.piece_name}</h1>
          <p className="text-[16px] text-quiet">
            {sayDay(run.started_at)}, {sayTime(run.started_at)} · {run.state} ·{" "}
            {saySpan(run.started_at, run.ended_at)}
            {run.piece !== null && (
              <>
                {" · "}
                <Link
                  to="/work/$piece"
                  params={{ piece: String(run.piece) }}
                  className="text-accent underline"
                >
                  the piece
                </Link>
              </>
            )}
            {run.state === "going" && (
              <>
                {" · "}
                <Link to="/run/$run" params={{ run: String(run.id) }} className="text-accent underline">
                  go on with it
                </Link>
              </>
            )}
          </p>
          <Kin run={run.id} className="text-[16px]" />
        </div>
        <div className="h-24 w-52" aria-hidden>
          <PictureView picture={run.picture} size={[208, 96]} plain />
        </div>
      </header>
      <div className="mt-4 flex flex-wrap items-start gap-3">
        <Photos run={run.id} turn={run.turn} />
        {run.state !== "going" && <Onwards run={run.id} name={run.piece_name} />}
      </div>
      <ol className="mt-5 border-t border-hair">
        {run.records.map((record) => (
          <Line key={`${String(record.n)}.${String(record.again)}`} record={record} />
        ))}
      </ol>
    </div>
  );
}

function Line({ record }: { record: RecordView }) {
  const units = useUnits();
  const measured = measuredLine(record, units);
  return (
    <li className="grid grid-cols-[36px_70px_130px_1fr_110px] items-baseline gap-4 border-b border-hair py-2 text-[15px]">
      <span className="figures text-right text-quiet">{record.n}</span>
      <span className="figures text-quiet">{sayTime(record.started_at)}</span>
      <span className="font-semibold">
        {titleOfStep(record.step)}
        {record.again > 1 && <span className="block font-normal text-warn">{sayTry(record.again)}</span>}
      </span>
      <span className="min-w-0">
        <span className={record.skipped ? "text-quiet line-through" : ""}>{record.step.text}</span>
        {record.outcomes.map((outcome) => (
          <span key={outcome.join} className="mt-0.5 block">
            {outcome.title}:{" "}
            <b
              className={
                outcome.outcome === "flowed" ? "font-semibold text-accent" : "font-semibold text-warn"
              }
            >
              {outcome.words.toLowerCase()}
            </b>
          </span>
        ))}
        {record.tally + record.lost > 0 && (
          <span className="mt-0.5 block">
            {`${String(record.tally)} of ${String(record.step.alike)} done`}
            {record.lost > 0 && <b className="font-semibold text-warn">{`, ${String(record.lost)} lost`}</b>}
          </span>
        )}
        <SignsBand record={record} />
        <Looks record={record} />
        {measured && <span className="mt-0.5 block font-semibold">{measured}</span>}
        {record.note && <span className="mt-0.5 block border-l-2 border-accent pl-2">{record.note}</span>}
      </span>
      <span className="text-right text-quiet">
        {record.skipped ? "skipped" : saySpan(record.started_at, record.ended_at)}
        {!record.skipped && <b className="block font-semibold text-warn">{sayWait(record)}</b>}
      </span>
    </li>
  );
}

/** What was looked at and did not pass; where all did, that. */
function Looks({ record: { step, looks } }: { record: RecordView }) {
  if (step.kind !== "inspect" || looks.length === 0) return null;
  const not = looks.filter(({ passes }) => !passes);
  if (not.length === 0)
    return <span className="mt-0.5 block text-accent">All that was looked at passed.</span>;
  return not.map(({ check }) => (
    <span key={check} className="mt-0.5 block font-semibold text-warn">
      Did not pass: {step.checks[check - 1]?.how}
    </span>
  ));
}
