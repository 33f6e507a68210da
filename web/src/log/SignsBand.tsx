/** A heat of the log: when each sign was foretold, as a band from a strong torch to a weak one, and when it was pressed. */
import type { RecordView } from "../api/types";
import { most } from "../parts/extent";
import { saySeconds } from "../parts/words";

const WIDE = 680;
const ACROSS = 300;
const ROW = 19;

type Mark = { see: string; low: number; likely: number; high: number; pressed: number | null };

/** The signs of a heat, s from the lit flame: foretold, and pressed. Nothing of one that was not rehearsed, or never lit. */
export function marksOf({ step, signs }: RecordView): Mark[] {
  const lit = signs.find(({ stage }) => stage === 0);
  if (step.kind !== "heat" || !lit || step.stages.length === 0) return [];
  const after = new Map(signs.map(({ stage, at }) => [stage, (Date.parse(at) - Date.parse(lit.at)) / 1000]));
  let [low, likely, high] = [0, 0, 0];
  return step.stages.map((stage, n) => {
    low += stage.low_s ?? stage.likely_s;
    likely += stage.likely_s;
    high += stage.high_s ?? stage.likely_s;
    return { see: stage.see, low, likely, high, pressed: after.get(n + 1) ?? null };
  });
}

export function SignsBand({ record }: { record: RecordView }) {
  const marks = marksOf(record);
  if (marks.length === 0) return null;
  const longest = most(marks.flatMap(({ high, pressed }) => [high, pressed ?? 0]));
  const x = (seconds: number) => 2 + (seconds / longest) * (ACROSS - 4);
  return (
    <svg
      viewBox={`0 0 ${String(WIDE)} ${String(ROW * marks.length)}`}
      className="mt-1.5 w-full max-w-[680px]"
      role="img"
      aria-label="Signs foretold and pressed"
    >
      {marks.map((mark, n) => (
        <g key={mark.see} transform={`translate(0 ${String(ROW * n)})`}>
          <path d={`M0 ${ROW - 3}H${ACROSS}`} stroke="var(--hair)" />
          <rect
            x={x(mark.low)}
            width={Math.max(2, x(mark.high) - x(mark.low))}
            y={4}
            height={ROW - 8}
            fill="var(--metal)"
            opacity={0.4}
          />
          <path d={`M${x(mark.likely)} 4v${ROW - 8}`} stroke="var(--ink)" />
          {mark.pressed !== null && (
            <path d={`M${x(mark.pressed)} 1v${ROW - 2}`} stroke="var(--accent)" strokeWidth={3} />
          )}
          <text x={ACROSS + 10} y={ROW - 6} fontSize={13} fill="var(--ink)">
            <tspan className="figures">{mark.pressed === null ? "–" : saySeconds(mark.pressed)}</tspan>
            <tspan fill="var(--quiet)">{`  of about ${saySeconds(mark.likely)}: ${mark.see}`}</tspan>
          </text>
          <title>{sayMark(mark)}</title>
        </g>
      ))}
    </svg>
  );
}

const sayMark = ({ see, likely, pressed }: Mark): string =>
  `${see}: foretold after ${saySeconds(likely)}${pressed === null ? ", not pressed" : `, pressed after ${saySeconds(pressed)}`}`;
