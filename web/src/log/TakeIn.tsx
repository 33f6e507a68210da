import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Refusal, sayFault } from "../api/client";
import { takeRunIn, takeTableIn } from "../api/queries";
import type { Fault, RunFile } from "../api/types";
import { Button } from "../parts/Button";

const FORMAT = "eskel-log/1";
const LARGEST_MB = 200;
const LARGEST_TABLE_MB = 5;

/** How a run of a file came in: its place in the file from 1, what it is called, and why it did not where it did not. */
type Row = { n: number; name: string; faults: Fault[] };
type Taking = { of: number; rows: Row[]; done: boolean; wrong: string };

/** Runs taken in from a file, one after another: each whole or not at all; what is refused is told row by row. */
export function TakeIn() {
  const cache = useQueryClient();
  const field = useRef<HTMLInputElement>(null);
  const [taking, setTaking] = useState<Taking | null>(null);
  const take = async (file: File) => {
    const rows: Row[] = [];
    if (/\.csv$/i.test(file.name)) {
      await takeTable(file, setTaking);
      return cache.invalidateQueries();
    }
    const told = await readRuns(file);
    if (typeof told === "string") return setTaking({ of: 0, rows, done: true, wrong: told });
    for (const [n, run] of told.entries()) {
      setTaking({ of: told.length, rows: [...rows], done: false, wrong: "" });
      rows.push({ n: n + 1, name: nameOf(run), faults: await faultsOf(run) });
    }
    setTaking({ of: told.length, rows, done: true, wrong: "" });
    await cache.invalidateQueries();
  };
  return (
    <div>
      <button
        type="button"
        className="text-[15px] text-accent underline"
        onClick={() => field.current?.click()}
      >
        Take runs in
      </button>
      <input
        ref={field}
        type="file"
        accept="application/json,.json,text/csv,.csv"
        aria-label="A file of runs"
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          if (file) void take(file);
          event.target.value = "";
        }}
      />
      {taking && <Told taking={taking} onClose={() => setTaking(null)} />}
    </div>
  );
}

/** The runs in a file; in words, why there are none. */
async function readRuns(file: File): Promise<unknown[] | string> {
  if (file.size > LARGEST_MB * 1e6)
    return `${file.name} is ${(file.size / 1e6).toFixed(0)} MB: a file of runs is at most ${String(LARGEST_MB)} MB.`;
  try {
    const told = JSON.parse(await file.text()) as { format?: unknown; runs?: unknown };
    if (told.format === FORMAT && Array.isArray(told.runs)) return told.runs;
    return `${file.name} is no file of runs: one says "format": "${FORMAT}", as the log writes it.`;
  } catch {
    return `${file.name} is no JSON: take the runs out of a log again.`;
  }
}

/** The runs of a table of outcomes, as many at a time as the server takes; what became of them is told as it goes. */
async function takeTable(file: File, tell: (taking: Taking) => void): Promise<void> {
  const taking: Taking = { of: 0, rows: [], done: false, wrong: "" };
  const end = (wrong: string) => tell({ ...taking, done: true, wrong });
  if (file.size > LARGEST_TABLE_MB * 1e6)
    return end(
      `${file.name} is ${(file.size / 1e6).toFixed(0)} MB: a table is at most ${String(LARGEST_TABLE_MB)} MB. Cut it in two between runs.`,
    );
  try {
    const text = await file.text();
    for (let skip: number | null = 0; skip !== null; ) {
      const told = await takeTableIn(text, skip);
      const rows = told.rows.map((row, n) => ({ ...row, n: taking.rows.length + n + 1 }));
      taking.rows = [...taking.rows, ...rows];
      taking.of = told.of;
      skip = told.next;
      tell({ ...taking });
    }
    end("");
  } catch (problem) {
    if (!(problem instanceof Refusal)) throw problem;
    end(problem.faults.map(sayFault).join(" "));
  }
}

async function faultsOf(run: unknown): Promise<Fault[]> {
  try {
    await takeRunIn(run as RunFile);
    return [];
  } catch (problem) {
    if (problem instanceof Refusal) return problem.faults;
    throw problem;
  }
}

const nameOf = (run: unknown): string =>
  run && typeof run === "object" && "piece_name" in run
    ? String(run.piece_name).slice(0, 60)
    : "without a name";

function Told({ taking: { of, rows, done, wrong }, onClose }: { taking: Taking; onClose: () => void }) {
  const refused = rows.filter(({ faults }) => faults.length > 0);
  return (
    <div
      role="status"
      className="absolute right-7 z-10 mt-2 max-h-[60vh] w-[min(36rem,90vw)] overflow-y-auto rounded-lg border border-hair bg-raised px-5 py-4 text-[15px]"
    >
      {wrong ? (
        <p className="text-alarm">{wrong}</p>
      ) : (
        <p className="text-[17px] font-semibold">
          {done
            ? `${String(rows.length - refused.length)} of ${String(of)} runs taken in`
            : `Taking in ${String(rows.length + 1)} of ${String(of)} …`}
        </p>
      )}
      {refused.map(({ n, name, faults }) => (
        <p key={n} className="mt-2 border-t border-hair pt-2">
          <b className="font-semibold">
            {n}. {name}
          </b>{" "}
          was left out: {faults.map(sayFault).join(" ")}
        </p>
      ))}
      {done && (
        <Button className="mt-3" onClick={onClose}>
          Close
        </Button>
      )}
    </div>
  );
}
