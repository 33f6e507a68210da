import { useState } from "react";
import type { Caution } from "../api/types";
import { Ask } from "../parts/Ask";
import { Tick } from "../parts/Field";

export type StopsProps = { stops: Caution[]; onYes: () => void; onClose: () => void };

/** The rules that speak against a plan: a run of it begins when each has been read and ticked. */
export function Stops({ stops, onYes, onClose }: StopsProps) {
  const [read, setRead] = useState<number[]>([]);
  const tick = (n: number, ticked: boolean) =>
    setRead((now) => (ticked ? [...now, n] : now.filter((one) => one !== n)));
  return (
    <Ask
      open
      title="The work will fail here"
      no="Not yet"
      yes="Start all the same"
      ready={read.length === stops.length}
      onYes={onYes}
      onClose={onClose}
    >
      <ul className="grid gap-3">
        {stops.map((stop, n) => (
          <li key={`${stop.code} ${String(stop.step)}`} className="border-l-4 border-alarm pl-3">
            <p className="text-ink">{stop.text}</p>
            <p>Instead: {stop.remedy}.</p>
            <Tick label="I go on all the same" ticked={read.includes(n)} onTick={(on) => tick(n, on)} />
          </li>
        ))}
      </ul>
    </Ask>
  );
}
