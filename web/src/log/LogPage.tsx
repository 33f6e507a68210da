import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { useLog } from "../api/queries";
import type { LogLine } from "../api/types";
import { FaultList } from "../parts/FaultList";
import { boxed } from "../parts/Field";
import { useSettled } from "../parts/useSettled";
import { TorchesSection } from "./TorchesSection";
import { sayDay, saySpan, sayTime } from "./words";

const SETTLED_MS = 250;

/** The log: what was done, and how it came out; find it again by any word. */
export function LogPage() {
  const [words, setWords] = useState("");
  // Asked when the typing pauses; what was asked before is broken off then.
  const log = useLog(useSettled(words, SETTLED_MS));
  const lines = log.data ?? [];
  return (
    <div className="mx-auto max-w-[1160px] px-7 py-5">
      <header className="flex items-center justify-between gap-6">
        <h1 className="text-[26px] font-bold">Log</h1>
        {lines.length > 0 && (
          <a
            className="ml-auto text-[15px] text-accent underline"
            href={`/api/log/outcomes.csv?words=${encodeURIComponent(words)}`}
            download
          >
            Outcomes as CSV
          </a>
        )}
        <label className="flex items-center gap-3 text-[15px] text-quiet">
          Find
          <input
            type="search"
            className={`${boxed} !min-h-10 !w-80`}
            placeholder="a piece, a note, an outcome"
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
        </label>
      </header>
      <FaultList error={log.error} />
      {log.isSuccess && lines.length === 0 && (
        <p className="mt-16 max-w-lg text-lg text-quiet">
          {words
            ? `No run holds “${words}”.`
            : "No run yet. Start one from a piece: every step, time and outcome is written down here by itself."}
        </p>
      )}
      <ul className="mt-4 border-t border-hair">
        {lines.map((line) => (
          <Line key={line.id} line={line} />
        ))}
      </ul>
      {words === "" && <TorchesSection />}
    </div>
  );
}

function Line({ line }: { line: LogLine }) {
  return (
    <li className="border-b border-hair">
      <Link
        to="/log/$run"
        params={{ run: String(line.id) }}
        className="grid grid-cols-[190px_300px_170px_1fr] items-baseline gap-5 py-3 hover:bg-sunk"
      >
        <span className="figures text-[15px] text-quiet">
          {sayDay(line.started_at)} {sayTime(line.started_at)}
        </span>
        <span className="truncate text-[18px] font-semibold">{line.piece_name}</span>
        <span className="text-[15px] text-quiet">
          {line.state === "finished"
            ? saySpan(line.started_at, line.ended_at)
            : `${line.state}, ${String(line.steps_done)} of ${String(line.steps)} steps`}
        </span>
        <span className="text-[15px]">
          {line.outcomes.map((outcome) => (
            <span key={outcome.outcome} className={`mr-4 ${outcome.sound ? "" : "font-semibold text-warn"}`}>
              {outcome.count} × {outcome.words.toLowerCase()}
            </span>
          ))}
          {line.notes > 0 && (
            <span className="text-quiet">{line.notes === 1 ? "1 note" : `${String(line.notes)} notes`}</span>
          )}
        </span>
      </Link>
    </li>
  );
}
