import type { GlowStep, Rehearsal } from "../api/types";
import { sayLength } from "../parts/units";
import { useUnits } from "../parts/useUnits";
import { glowAt, valueAt } from "./moments";

export type BallPictureProps = { rehearsal: Rehearsal; glow: readonly GlowStep[]; seconds: number };

const HIGH = 200;
const WIDE = 396;
const WIRE_SHOWN = 1.1;

/** A ball growing at the end of its wire, to scale, with the size that is wanted and the one at which it lets go. */
export function BallPicture({ rehearsal, glow, seconds }: BallPictureProps) {
  const units = useUnits();
  const { ball, series } = rehearsal;
  const tip = series.parts[0];
  if (!ball || !tip) return null;
  const scale = (HIGH - 30) / (ball.limit_mm * (1 + WIRE_SHOWN));
  const size = valueAt(series.time_s, ball.diameter_mm, seconds) * scale;
  const limit = ball.limit_mm * scale;
  const wanted = (ball.wanted_mm ?? 0) * scale;
  const top = 14;
  const neck = top + limit * WIRE_SHOWN;
  const colour = glowAt(glow, valueAt(series.time_s, tip.c, seconds));
  const middle = WIDE / 2 - 40;
  return (
    <svg
      viewBox={`0 0 ${String(WIDE)} ${String(HIGH)}`}
      className="h-full w-full"
      role="img"
      aria-label="The ball at the end of its wire"
    >
      <path d={`M${middle} ${top}V${neck}`} stroke={colour} strokeWidth={Math.max(2, ball.wire_mm * scale)} />
      <Ring x={middle} y={neck + limit / 2} r={limit / 2} colour="var(--alarm)" dashed />
      {wanted > 0 && <Ring x={middle} y={neck + wanted / 2} r={wanted / 2} colour="var(--accent)" />}
      {size > 0 && <circle cx={middle} cy={neck + size / 2} r={size / 2} fill={colour} />}
      <text x={middle + limit / 2 + 18} y={neck + limit - 4} fontSize={15} fill="var(--alarm)">
        lets go at {sayLength(ball.limit_mm, units, 1)}
      </text>
      {ball.wanted_mm !== null && (
        <text x={middle + limit / 2 + 18} y={neck + limit - 26} fontSize={15} fill="var(--accent)">
          wanted {sayLength(ball.wanted_mm, units, 1)}
        </text>
      )}
      <text
        x={middle + limit / 2 + 18}
        y={neck + limit - 52}
        fontSize={22}
        fontWeight={700}
        fill="var(--ink)"
      >
        {sayLength(valueAt(series.time_s, ball.diameter_mm, seconds), units, 1)}
      </text>
    </svg>
  );
}

type RingProps = { x: number; y: number; r: number; colour: string; dashed?: boolean };

function Ring({ x, y, r, colour, dashed }: RingProps) {
  return (
    <circle
      cx={x}
      cy={y}
      r={r}
      fill="none"
      stroke={colour}
      strokeWidth={1.4}
      strokeDasharray={dashed ? "4 4" : undefined}
    />
  );
}
