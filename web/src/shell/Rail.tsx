import { Link } from "@tanstack/react-router";
import { useRail } from "../api/queries";
import type { RailEntry, Step } from "../api/types";
import { Button } from "../parts/Button";
import { Tip } from "../parts/Tip";
import { offsetOf, readTimer, sayClock, secondsUntil, useTick } from "./clock";
import { useNewer, useTakeNewer } from "./newer";

/** What is being done, by the kind of step; every kind has its words. */
const DOING: Record<Step["kind"] | "unreadable", string> = {
  prepare: "being made ready",
  work: "in hand",
  heat: "at the torch",
  cool: "cooling",
  pickle: "in the pot",
  inspect: "to be looked at",
  unreadable: "cannot be read",
};

const doing = (kind: string): string => (DOING as Record<string, string>)[kind] ?? "";
const NONE: RailEntry[] = [];

/** The strip along the bottom: what runs now, when it is due, what comes next. */
export function Rail() {
  const rail = useRail();
  const away = rail.isError || rail.failureCount > 0;
  const here = useTick();
  const offset = rail.data ? offsetOf(rail.data.now, rail.dataUpdatedAt) : 0;
  const entries = rail.data?.entries ?? NONE;
  return (
    <aside
      aria-label="Running now"
      className="flex h-14 shrink-0 items-center gap-8 overflow-x-auto border-t border-hair bg-sunk px-5 text-[15px] print:hidden"
    >
      {away && (
        <span className="text-alarm">
          Eskel does not answer and is asked again; timers go on in the database.
        </span>
      )}
      {!away && entries.length === 0 && (
        <span className="text-quiet">Nothing is running. Start a run from a piece.</span>
      )}
      {entries.map((entry) => (
        <Entry key={entry.run} entry={entry} offset={offset} here={here} />
      ))}
      <NewerPage />
    </aside>
  );
}

/** That there is a newer page: it is taken by a press, or with the next change of place, and never while a heat is on. */
function NewerPage() {
  const newer = useNewer();
  useTakeNewer(newer);
  if (!newer.there) return null;
  return (
    <span className="ml-auto flex shrink-0 items-center gap-3">
      {newer.heatOn ? "There is a newer page: it is taken after this heat." : "There is a newer page."}
      {!newer.heatOn && (
        <Button className="min-h-11" onClick={() => location.reload()}>
          Take it
        </Button>
      )}
    </span>
  );
}

type Timed = { entry: RailEntry; offset: number; here: number };

function Entry({ entry, offset, here }: Timed) {
  return (
    <Link
      to="/run/$run"
      params={{ run: String(entry.run) }}
      className="flex min-h-11 shrink-0 items-center gap-4 whitespace-nowrap hover:underline"
    >
      <span>
        <b className="font-semibold">{entry.piece_name}</b> {doing(entry.kind)}
      </span>
      <RailTimer entry={entry} offset={offset} here={here} />
      {entry.block_until && secondsUntil(entry.block_until, offset, here) > 0 && (
        <span className="figures font-semibold text-warn">
          block hot {sayClock(secondsUntil(entry.block_until, offset, here))}
        </span>
      )}
      {entry.caution ? (
        <Tip words={entry.caution}>
          <span className="max-w-[34rem] truncate font-semibold text-alarm">{entry.caution}</span>
        </Tip>
      ) : (
        <span className="max-w-96 truncate text-quiet">then {lowerFirst(entry.next_text)}</span>
      )}
    </Link>
  );
}

function RailTimer({ entry, offset, here }: Timed) {
  if (!entry.due_low || !entry.due_high)
    return (
      <span className="figures text-quiet">
        step {entry.position} of {entry.total}
      </span>
    );
  const timer = readTimer(entry.due_low, entry.due_high, offset, here);
  return (
    <span className="figures text-xl font-bold" data-testid="rail-timer">
      {timer.state === "waiting"
        ? sayClock(timer.seconds)
        : timer.state === "ready"
          ? "ready"
          : entry.kind === "cool"
            ? "cold"
            : "take it out"}
    </span>
  );
}

const lowerFirst = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);
