import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { useLog, useLogChoices, useLogSums } from "../api/queries";
import type { AskedOfLog, LogLine, LogSums } from "../api/types";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { Menu } from "../parts/Select";
import { useSettled } from "../parts/useSettled";
import { AskBar, type Asking, NOTHING } from "./AskBar";
import { addressOf, dayOf, isFiltered, without } from "./asking";
import { Plots } from "./plots";
import { TakeIn } from "./TakeIn";
import { TorchesSection } from "./TorchesSection";
import { sayDay, saySpan, sayTime } from "./words";

const SETTLED_MS = 250;
const MOST_LINES = 100;
const LINK = "text-[15px] text-accent underline";

/** The log: what was done, and how it came out; asked in words, and by what a join was of. */
export function LogPage() {
  const [asking, setAsking] = useState<Asking>(NOTHING);
  // Asked when the typing pauses; what was asked before is broken off then.
  const words = useSettled(asking.words, SETTLED_MS);
  const asked: AskedOfLog = { words, ...asking.filters, since: dayOf(asking.since) } as AskedOfLog;
  const log = useLog(asked);
  const sums = useLogSums(asked);
  const lines = log.data ?? [];
  const everything = !words && !isFiltered(asked);
  return (
    <div className="mx-auto max-w-[1160px] px-4 py-5 sm:px-7">
      <header className="mb-3 flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h1 className="text-[26px] font-bold">Log</h1>
        {sums.data && sums.data.times > 0 && <HowMany sums={sums.data} />}
        <div className="ml-auto flex flex-wrap justify-end gap-x-6 gap-y-1">
          {lines.length > 0 && (
            <>
              <a className={LINK} href={addressOf("/api/log/outcomes.csv", asked)} download>
                Outcomes as CSV
              </a>
              <RunsOut asked={asked} everything={everything} />
            </>
          )}
          <TakeIn />
        </div>
      </header>
      <AskBar asking={asking} asked={asked} onAsk={setAsking} />
      <FaultList error={log.error ?? sums.error} />
      {log.isSuccess && lines.length === 0 && (
        <Nothing
          everything={everything}
          words={words}
          without={sums.data?.without ?? []}
          onLeave={(word) => setAsking({ ...asking, words: without(asking.words, word) })}
        />
      )}
      {sums.data && sums.data.times > 0 && <Plots sums={sums.data} />}
      {lines.length > 0 && (
        <h2 className="mt-7 text-[19px] font-semibold">
          {lines.length < MOST_LINES ? runsIn(lines.length) : `The newest ${String(MOST_LINES)} runs`}
        </h2>
      )}
      <ul className="mt-2 border-t border-hair">
        {lines.map((line) => (
          <Line key={line.id} line={line} />
        ))}
      </ul>
      {everything && <TorchesSection />}
    </div>
  );
}

const runsIn = (count: number) => (count === 1 ? "One run" : `${String(count)} runs`);

type NothingProps = {
  everything: boolean;
  words: string;
  without: LogSums["without"];
  onLeave: (word: string) => void;
};

/** Nothing was found: what to do then. */
function Nothing({ everything, words, without: some, onLeave }: NothingProps) {
  const told = everything
    ? "No run yet. Start one from a piece: every step, time and outcome is written down here by itself."
    : words
      ? `No run holds all of “${words}”.`
      : "No run holds that.";
  return (
    <div className="mt-16 mb-4 max-w-xl text-lg text-quiet">
      <p>{told}</p>
      {some.map(({ word, times }) => (
        <Button key={word} className="mt-3 mr-3 min-h-12" onClick={() => onLeave(word)}>
          Without “{word}”: {times === 1 ? "one join" : `${times.toLocaleString("en-GB")} joins`}
        </Button>
      ))}
    </div>
  );
}

/** The answer in one line: how many joins that were, and how many of them came out sound. */
function HowMany({ sums: { times, sound } }: { sums: LogSums }) {
  return (
    <p className="text-[19px]">
      <b className="tabular-nums">{Math.round((100 * sound) / times)} %</b> sound of{" "}
      {times === 1 ? "one join" : `${times.toLocaleString("en-GB")} joins`}
    </p>
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

/** The runs as files: of many in several, the newest first. */
function RunsOut({ asked, everything }: { asked: AskedOfLog; everything: boolean }) {
  const told = useLogChoices().data;
  const address = addressOf("/api/log/runs.json", asked);
  const parts = told && everything ? Math.ceil(told.runs / told.runs_in_file) : 1;
  if (parts < 2)
    return (
      <a className={LINK} href={address} download>
        Runs as JSON
      </a>
    );
  const options = Array.from({ length: parts }, (_, n): readonly [string, string] => {
    const first = n * (told?.runs_in_file ?? 0);
    const last = Math.min(told?.runs ?? 0, first + (told?.runs_in_file ?? 0));
    return [String(n + 1), `${String(first + 1)} to ${String(last)}${n === 0 ? ", the newest" : ""}`];
  });
  const take = (part: string) =>
    window.location.assign(`${address}${address.includes("?") ? "&" : "?"}part=${part}`);
  return <Menu label="Runs as JSON" options={options} onChoose={take} className={LINK} />;
}
