import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { LoggedLine, TorchLine } from "../api/types";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { saySeconds } from "../parts/words";
import { leaveHeatOut, useTorches } from "../rehearsal/queries";
import { sayDay } from "./words";

const WHY_NOT: Record<NonNullable<LoggedLine["why_not"]>, string> = {
  "no-flame": "its clock began with no flame: does not count",
  failed: "it failed: does not count",
  "clicked-through": "clicked through: does not count",
  interrupted: "far too long: does not count",
};

/** The bench's own torches: what logged heats say of each, predicted against actual, and how it tightened. */
export function TorchesSection() {
  const torches = useTorches();
  const cache = useQueryClient();
  const [error, setError] = useState<unknown>(null);
  const leaveOut = async (heat: LoggedLine) => {
    try {
      setError(null);
      cache.setQueryData(["torches"], await leaveHeatOut(heat.record, !heat.left_out));
      await cache.invalidateQueries({ queryKey: ["rehearsal"] });
    } catch (problem) {
      setError(problem);
    }
  };
  const lines = torches.data ?? [];
  if (lines.length === 0) return null;
  return (
    <section aria-label="This bench's torches" className="mt-8">
      <h2 className="text-[19px] font-semibold">Predicted and actual: this bench's torches</h2>
      <FaultList error={error ?? torches.error} />
      {lines.map((line) => (
        <Torch key={line.torch} line={line} onLeaveOut={(heat) => void leaveOut(heat)} />
      ))}
    </section>
  );
}

type TorchProps = { line: TorchLine; onLeaveOut: (heat: LoggedLine) => void };

function Torch({ line, onLeaveOut }: TorchProps) {
  const counted = line.heats.filter((heat) => !heat.left_out && !heat.why_not).length;
  return (
    <div className="mt-3 grid grid-cols-[300px_1fr] gap-8 border-t border-hair pt-3">
      <div>
        <p className="text-[17px] font-semibold">{line.name}</p>
        <p className="figures text-[34px] leading-tight font-bold">× {line.factor.toFixed(2)}</p>
        <p className="text-[15px] text-quiet">
          {strengthOf(line.factor)}, within {line.known_pct.toFixed(0)} %, from{" "}
          {counted === 1 ? "one heat" : `${String(counted)} heats`}. The next heat is told within{" "}
          {line.next_pct.toFixed(0)} %; before the first it was {line.first_pct.toFixed(0)} %.
        </p>
      </div>
      <div>
        <Predictions heats={line.heats} />
        <ul className="mt-1">
          {line.heats.map((heat) => (
            <li
              key={heat.record}
              className={`flex items-center gap-4 border-b border-hair py-0.5 text-[15px] ${heat.left_out ? "text-quiet line-through" : ""}`}
            >
              <span className="w-28 text-quiet">{sayDay(heat.at)}</span>
              <span className="min-w-0 flex-1 truncate">
                {heat.piece_name}, heat {heat.heat_no}
              </span>
              {heat.wild && <span className="font-semibold text-warn">wild: hardly counts</span>}
              {heat.why_not && <span className="font-semibold text-warn">{WHY_NOT[heat.why_not]}</span>}
              <span className="figures w-52 text-right">
                {saySeconds(heat.likely_s)} told, {saySeconds(heat.actual_s)} took
              </span>
              <Button look="bare" className="!min-h-9 no-underline" onClick={() => onLeaveOut(heat)}>
                {heat.left_out ? "Count it" : "Leave out"}
              </Button>
            </li>
          ))}
        </ul>
      </div>
    </div>
  );
}

const strengthOf = (factor: number): string => {
  const off = Math.round(Math.abs(factor - 1) * 100);
  if (off === 0) return "As strong as the table's";
  return `${String(off)} % ${factor > 1 ? "stronger" : "weaker"} than the table's`;
};

const WIDE = 700;
const HIGH = 120;

/** Each heat in turn: the band that was told as a bar, what it took as a dot; nearer together is better told. */
function Predictions({ heats }: { heats: LoggedLine[] }) {
  const ratio = (seconds: number, heat: LoggedLine) => Math.log2(seconds / heat.likely_s);
  const y = (value: number) => HIGH / 2 - Math.max(-1.4, Math.min(1.4, value)) * (HIGH / 2 / 1.5);
  const pitch = Math.min(48, (WIDE - 60) / Math.max(1, heats.length));
  return (
    <svg
      viewBox={`0 0 ${String(WIDE)} ${String(HIGH)}`}
      className="w-full"
      role="img"
      aria-label="Told and taken, heat by heat"
    >
      <path d={`M44 ${y(0)}H${WIDE}`} stroke="var(--hair)" />
      {[
        [1, "twice"],
        [0, "as told"],
        [-1, "half"],
      ].map(([at, words]) => (
        <text key={words} x={0} y={y(Number(at)) + 4} fontSize={12} fill="var(--quiet)">
          {words}
        </text>
      ))}
      {heats.map((heat, n) => {
        const x = 60 + pitch * (n + 0.4);
        const low = y(heat.low_s === null ? -1.4 : ratio(heat.low_s, heat));
        const high = y(heat.high_s === null ? 1.4 : ratio(heat.high_s, heat));
        return (
          <g key={heat.record} opacity={heat.left_out ? 0.3 : 1}>
            <path d={`M${x} ${high}V${low}`} stroke="var(--metal)" strokeWidth={9} opacity={0.45} />
            <path d={`M${x - 7} ${y(0)}h14`} stroke="var(--quiet)" strokeWidth={2} />
            <circle
              cx={x}
              cy={y(ratio(heat.actual_s, heat))}
              r={5.5}
              fill={heat.wild ? "var(--warn)" : "var(--accent)"}
            />
          </g>
        );
      })}
    </svg>
  );
}
